import { createServer, type Server, type Socket } from 'node:net';
import type { AddressInfo } from 'node:net';
import { describe, expect, it, onTestFinished } from 'vitest';
import { demoShow } from '../../demo/show';
import { startRig, startSwitcher, TestClient, until } from '../../test/support/rig';
import type { AsRunRow, PageView, ReadingsView, RowsView, StatusView, WireRow } from '../core/live';
import type { ControlRecord, DeviceRecord, ShowRecord } from '../core/show';
import { shippedDrivers } from '../drivers';
import visionSwitcher from '../drivers/vision-switcher.json';
import { installDriver, putInService, stepBack } from '../store';

const page = 'page-race';
const device = 'dev-switcher';

/** The demo show with its switcher on this port. */
const showOn = (port: number): ShowRecord[] =>
  demoShow(4400).flatMap((record): ShowRecord[] => {
    if (record.kind === 'device' && record.id !== device) return [];
    return [record.kind === 'device' ? { ...record, data: { ...record.data, port } } : record];
  });

/** The switcher's driver as one that was installed, whose first command says this. */
const houseDriver = (version: number, verb: string): unknown =>
  JSON.parse(
    JSON.stringify({ ...visionSwitcher, id: 'house-switcher', version }).replaceAll('TAKE {input}', `${verb} {input}`),
  );

async function demo() {
  const switcher = await startSwitcher();
  const rig = await startRig(showOn(switcher.port), shippedDrivers);
  const client = await TestClient.open(rig.url);
  await linkIs(client, 'up');
  return { switcher, rig, client };
}

const linkIs = (client: TestClient, word: string) => client.linkIs(device, word);

const faceOf = (message: unknown, control: string) =>
  (message as { data?: { faces?: { put?: PageView['faces'] } } }).data?.faces?.put?.[control];
const lampChanges = (client: TestClient, control: string, show: string, from = 0) =>
  client.next(
    (message) =>
      message.t === 'diff' && message.topic === `page:${page}` && faceOf(message, control)?.lamp.show === show,
    from,
  );

/** A device that does only what a test tells it: accepts connections and hands over what comes. */
async function bareDevice(
  onLine: (line: string, socket: Socket) => void,
  greeting = 'HAIL switcher 1 12\r\n',
): Promise<{ port: number; sockets: Set<Socket>; server: Server }> {
  const sockets = new Set<Socket>();
  const server = createServer((socket) => {
    sockets.add(socket);
    socket.on('error', () => undefined).on('close', () => sockets.delete(socket));
    let held = '';
    socket.setEncoding('utf8').on('data', (text: string) => {
      const parts = (held + text).split('\r\n');
      held = parts.pop() ?? '';
      for (const line of parts) onLine(line, socket);
    });
    socket.write(greeting);
  });
  onTestFinished(() => {
    for (const socket of sockets) socket.destroy();
    server.close();
  });
  await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve));
  return { port: (server.address() as AddressInfo).port, sockets, server };
}

describe('a press', () => {
  it('is confirmed by the device’s report, and the lamps follow that report', async () => {
    const { client } = await demo();
    const whole = await client.follow<PageView>(`page:${page}`);
    expect(whole.faces['ctl-program-1']?.lamp).toEqual({ show: 'onAir', word: 'ON AIR' });
    expect(whole.faces['ctl-program-3']?.segments).toEqual([{ text: 'Finish' }]);
    expect(await client.press(page, 'ctl-program-3')).toMatchObject({ outcome: 'confirmed' });
    await lampChanges(client, 'ctl-program-3', 'onAir');
    await lampChanges(client, 'ctl-program-1', 'off');
  });

  it('of the input that is on program already is confirmed, not late', async () => {
    const { client } = await demo();
    const report = await client.press(page, 'ctl-program-1');
    expect(report.outcome).toBe('confirmed');
    expect(report.ms).toBeLessThan(900);
  });

  it('that the device refuses ends with its reason', async () => {
    const { client, switcher } = await demo();
    expect((await client.press(page, 'ctl-auto')).outcome).toBe('confirmed');
    expect(await client.press(page, 'ctl-auto')).toMatchObject({
      outcome: 'refused',
      reason: 'A mix is running; wait until it has ended.',
    });
    expect(switcher.view.mixed).not.toBeNull();
  });

  it('with an id that was used acts no second time', async () => {
    const { client, switcher } = await demo();
    await client.press(page, 'ctl-cut', 'the-same-id');
    const { program } = switcher.view;
    const from = client.got.length;
    client.say({ t: 'press', id: 'the-same-id', page, control: 'ctl-cut', gesture: 'tap' });
    await client.next((message) => message.t === 'press' && message.id === 'the-same-id', from);
    expect(await client.press(page, 'ctl-program-6')).toMatchObject({ outcome: 'confirmed' });
    expect([program, switcher.view.program]).toEqual([2, 6]);
  });

  it('ends at once as lost while the device is down, with the cause', async () => {
    const { client, switcher } = await demo();
    await switcher.setPower(false);
    await linkIs(client, 'down');
    await client.next((message) => message.t === 'diff' && JSON.stringify(message.data).includes('"cause":"refused"'));
    const report = await client.press(page, 'ctl-program-3');
    expect(report).toMatchObject({ outcome: 'lost', reason: expect.stringContaining('port refused') as string });
    expect(report.ms).toBeLessThan(50);
  });

  it('is never sent later: what was lost stays lost', async () => {
    const { client, switcher } = await demo();
    await switcher.setPower(false);
    await linkIs(client, 'down');
    await client.press(page, 'ctl-program-3');
    await switcher.setPower(true);
    await linkIs(client, 'up');
    await client.press(page, 'ctl-preview-5');
    expect(switcher.view).toMatchObject({ program: 1, preview: 5 });
  });

  it('sends every command of its response, and ends with the worst of them', async () => {
    const { client, rig } = await demo();
    const control = showOn(1).find((record): record is ControlRecord => record.id === 'ctl-cut');
    if (!control) throw new Error('The demo show has changed.');
    const tap: ControlRecord['data']['responses']['tap'] = [
      { device, command: 'ready', params: { input: 9 } },
      { device, command: 'cut', params: {} },
      { device, command: 'rate', params: { frames: 999 } },
    ];
    rig.edit({
      title: 'Three sends',
      changes: [{ op: 'update', from: control, to: { ...control, data: { ...control.data, responses: { tap } } } }],
    });
    await client.follow<RowsView<AsRunRow>>('as-run');
    await until(
      () => rig.engine.api.presses.find(page, 'ctl-cut')?.data.responses.tap.length,
      (count) => count === 3,
    );
    const report = await client.press(page, 'ctl-cut');
    expect(report).toMatchObject({ outcome: 'lost', reason: 'Rate 999 is above the largest, 250.' });
    const row = await client.next(
      (message) =>
        message.t === 'diff' && message.topic === 'as-run' && JSON.stringify(message.data).includes(report.id),
    );
    const press = (row as unknown as { data: RowsView<AsRunRow> }).data.rows.find((each) => each.kind === 'press');
    expect(press?.kind === 'press' && press.sends.map((send) => [send.text, send.outcome])).toEqual([
      ['READY 9', 'confirmed'],
      ['CUT', 'confirmed'],
      ['', 'lost'],
    ]);
  });

  it('with the aim dry is shown and recorded, and sends nothing', async () => {
    const { client, switcher } = await demo();
    client.say({ t: 'aim', aim: 'dry' });
    await client.next(
      (message) =>
        message.t === 'diff' && message.topic === 'status' && JSON.stringify(message.data) === '{"aim":"dry"}',
    );
    expect(await client.press(page, 'ctl-program-3')).toMatchObject({ outcome: 'skipped' });
    expect(switcher.view.program).toBe(1);
  });

  it('of a control that is not there ends as lost', async () => {
    const { client } = await demo();
    expect(await client.press(page, 'ctl-nobody')).toMatchObject({ outcome: 'lost' });
  });
});

describe('a device that answers but does not report', () => {
  const answering = (line: string, socket: Socket) => {
    if (line === 'ASK all') socket.write('NOW program 1\r\nNOW preview 2\r\n');
    socket.write('DONE\r\n');
  };

  it('leaves a press late; the report that still comes is noted beside it', async () => {
    const bare = await bareDevice(answering);
    const rig = await startRig(showOn(bare.port), shippedDrivers);
    const client = await TestClient.open(rig.url);
    await linkIs(client, 'up');
    const report = await client.press(page, 'ctl-program-3');
    expect(report).toMatchObject({
      outcome: 'late',
      reason: 'The device accepted it but has not reported the effect.',
    });
    for (const socket of bare.sockets) socket.write('NOW program 3\r\n');
    await client.next((message) => message.t === 'press' && message.id === report.id && message.note !== undefined);
  });

  it('tells how a press ends to whoever asks for it, and to whoever presses with its id again', async () => {
    const bare = await bareDevice(answering);
    const rig = await startRig(showOn(bare.port), shippedDrivers);
    const client = await TestClient.open(rig.url);
    await linkIs(client, 'up');
    client.say({ t: 'press', id: 'the-same-id', page, control: 'ctl-program-3', gesture: 'tap' });
    await client.next((message) => message.t === 'press' && message.outcome === 'waiting');
    const other = await TestClient.open(rig.url);
    other.say({ t: 'ask', id: 'the-same-id' });
    other.say({ t: 'ask', id: 'never-pressed' });
    const again = await TestClient.open(rig.url);
    const reports = [
      client.outcome('the-same-id'),
      other.outcome('the-same-id'),
      again.press(page, 'ctl-program-3', 'the-same-id'),
    ];
    expect((await Promise.all(reports)).map(({ outcome }) => outcome)).toEqual(['late', 'late', 'late']);
    expect(await other.outcome('never-pressed')).toMatchObject({ outcome: 'lost' });
  });

  it('ends a press as lost when the connection breaks before the report', async () => {
    const bare = await bareDevice((line, socket) =>
      line.startsWith('TAKE') ? void socket.destroy() : answering(line, socket),
    );
    const rig = await startRig(showOn(bare.port), shippedDrivers);
    const client = await TestClient.open(rig.url);
    await linkIs(client, 'up');
    expect(await client.press(page, 'ctl-program-3')).toMatchObject({
      outcome: 'lost',
      reason: 'The connection broke before the device answered.',
    });
  });
});

describe('the link', () => {
  it('is down with its cause, its readings unknown, and true again within two seconds of the device’s return', async () => {
    const { client, switcher } = await demo();
    await client.follow<PageView>(`page:${page}`);
    const from = client.got.length;
    await switcher.setPower(false);
    const gone = await lampChanges(client, 'ctl-program-1', 'unknown', from);
    // The label keeps its last text, marked.
    expect(faceOf(gone, 'ctl-program-1')?.segments).toEqual([{ text: 'Start tower', doubt: 'unknown' }]);
    switcher.request({ verb: 'take', input: 4 });
    const back = client.got.length;
    const returned = performance.now();
    await switcher.setPower(true);
    await lampChanges(client, 'ctl-program-4', 'onAir', back);
    expect(performance.now() - returned).toBeLessThan(2000);
  });

  it('survives a broken connection and garbage', async () => {
    const { client, switcher } = await demo();
    switcher.sendRaw(Uint8Array.from({ length: 3000 }, (_, n) => (n * 37) % 256));
    switcher.sendRaw(new TextEncoder().encode('\r\nNOW program 99\r\nNOW\r\n'));
    expect(await client.press(page, 'ctl-program-2')).toMatchObject({ outcome: 'confirmed' });
    const from = client.got.length;
    switcher.drop();
    await client.next(
      (message) =>
        message.t === 'diff' && message.topic === 'status' && JSON.stringify(message.data).includes('"down"'),
      from,
    );
    await linkIs(client, 'up');
    expect(await client.press(page, 'ctl-program-3')).toMatchObject({ outcome: 'confirmed' });
  });

  it('says that something else answers on the port', async () => {
    const bare = await bareDevice(() => undefined, '220 mail.example ready\r\n');
    const rig = await startRig(showOn(bare.port), shippedDrivers);
    const client = await TestClient.open(rig.url);
    await linkIs(client, 'down');
    const status = await client.follow<StatusView>('status');
    expect(status.devices[device]?.link).toMatchObject({
      cause: 'wrong-greeting',
      detail: expect.stringContaining('220 mail') as string,
    });
  });

  it('falls silent when the device hangs: lamps stale, not lying', async () => {
    let hang = false;
    const bare = await bareDevice((line, socket) => {
      if (hang) return;
      if (line === 'ASK all') socket.write('NOW program 1\r\nNOW preview 2\r\n');
      socket.write('DONE\r\n');
    });
    const rig = await startRig(showOn(bare.port), shippedDrivers);
    const client = await TestClient.open(rig.url);
    await linkIs(client, 'up');
    await client.follow<PageView>(`page:${page}`);
    hang = true;
    await lampChanges(client, 'ctl-program-1', 'stale');
    hang = false;
    for (const socket of bare.sockets) socket.write('DONE\r\n');
    await lampChanges(client, 'ctl-program-1', 'onAir', client.got.length - 3);
  });

  it('of one device does not suffer from another that floods', async () => {
    const flood = await bareDevice((line, socket) => {
      if (line !== 'ASK all') return;
      socket.write('NOW program 1\r\nDONE\r\n');
      const timer = setInterval(() => socket.writable && socket.write('NOW rate 25\r\n'.repeat(2000)), 5);
      socket.on('close', () => clearInterval(timer));
    });
    const switcher = await startSwitcher();
    const records = showOn(switcher.port);
    const own = records.find((record): record is DeviceRecord => record.kind === 'device');
    if (!own) throw new Error('The demo show has changed.');
    const rig = await startRig(
      [...records, { ...own, id: 'dev-flood', data: { ...own.data, tag: 'SW2', port: flood.port } }],
      shippedDrivers,
    );
    const client = await TestClient.open(rig.url);
    await linkIs(client, 'up');
    for (const input of [2, 3, 4, 5]) {
      expect(await client.press(page, `ctl-program-${input}`)).toMatchObject({ outcome: 'confirmed' });
    }
  });
});

describe('the hub', () => {
  it('numbers differences without a gap, and gives the whole again when asked', async () => {
    const { client, switcher } = await demo();
    await client.follow<PageView>(`page:${page}`);
    for (const input of [3, 4, 5, 6]) await client.press(page, `ctl-program-${input}`);
    const numbers = client.got.flatMap((message) =>
      message.t === 'diff' && message.topic === `page:${page}` ? [message.n] : [],
    );
    expect(numbers).toEqual(numbers.map((_, n) => (numbers[0] ?? 0) + n));
    const from = client.got.length;
    client.say({ t: 'again', topic: `page:${page}` });
    const whole = await client.next((message) => message.t === 'whole', from);
    expect(whole).toMatchObject({
      n: numbers.at(-1),
      data: { faces: { 'ctl-program-6': { lamp: { show: 'onAir' } } } },
    });
    expect(switcher.view.program).toBe(6);
  });

  it('gives a panel its pages and the links, and nothing of the desk', async () => {
    const { rig } = await demo();
    const panel = await TestClient.open(`${rig.url}?as=panel`);
    await panel.follow<StatusView>('status');
    await panel.follow<PageView>(`page:${page}`);
    panel.say({ t: 'sub', topics: ['wire', 'as-run', 'head', `readings:${device}`] });
    for (const topic of ['wire', 'as-run', 'head', `readings:${device}`]) {
      await panel.next((message) => message.t === 'none' && message.topic === topic);
    }
    panel.say({ t: 'aim', aim: 'dry' });
    await panel.next((message) => message.t === 'error');
    expect(await panel.press(page, 'ctl-program-3')).toMatchObject({ outcome: 'confirmed' });
  });

  it('answers nonsense with a sentence and lets a client go that sends only that', async () => {
    const { rig } = await demo();
    const client = await TestClient.open(rig.url);
    client.say({ t: 'press', id: 'short', page, control: 'x', gesture: 'tap' });
    expect(await client.next((message) => message.t === 'error')).toMatchObject({
      message: expect.stringContaining('id') as string,
    });
    const closed = client.closed;
    for (let n = 0; n < 25; n += 1) client.sayRaw('{');
    expect(await closed).toBe(1008);
  });

  it('lets a client go that sends more than a message may have', async () => {
    const { rig } = await demo();
    const client = await TestClient.open(rig.url);
    const closed = client.closed;
    client.sayRaw('x'.repeat(17_000));
    expect(await closed).toBe(1009);
  });

  it('shows every byte on the wire and every reading with its freshness', async () => {
    const { client } = await demo();
    await client.press(page, 'ctl-program-3');
    const { rows } = await client.follow<RowsView<WireRow>>('wire');
    const text = (row: WireRow) => Buffer.from(row.hex, 'hex').toString();
    expect(rows.filter((row) => row.dir === 'out').map(text)).toEqual(
      expect.arrayContaining(['ASK all\r\n', 'TAKE 3\r\n']),
    );
    expect(rows.filter((row) => row.dir === 'in').map(text)).toEqual(
      expect.arrayContaining(['HAIL switcher 1 12\r\n', 'NOW program 3\r\n']),
    );
    const readings = await client.follow<ReadingsView>(`readings:${device}`);
    expect(readings['program']).toMatchObject({ value: 3, freshness: 'fresh' });
  });
});

describe('the running show', () => {
  const renamed = (control: ControlRecord, text: string): ControlRecord => ({
    ...control,
    data: { ...control.data, label: [{ text }] },
  });
  const cut = showOn(1).find((record): record is ControlRecord => record.id === 'ctl-cut');
  if (!cut) throw new Error('The demo show has changed.');

  it('follows edits on open pages at once, and keeps the connection of a device that did not change', async () => {
    const { client, rig, switcher } = await demo();
    await client.follow<PageView>(`page:${page}`);
    const before = client.got.length;
    rig.edit({ title: 'Rename', changes: [{ op: 'update', from: cut, to: renamed(cut, 'Hard cut') }] });
    await client.next((message) => faceOf(message, 'ctl-cut')?.segments[0]?.text === 'Hard cut');
    const added = { ...renamed(cut, 'More'), id: 'ctl-more', data: { ...renamed(cut, 'More').data, row: 2 } };
    rig.edit({ title: 'Add', changes: [{ op: 'add', record: added }] });
    await client.next((message) => faceOf(message, 'ctl-more') !== undefined);
    rig.edit({ title: 'Remove', changes: [{ op: 'remove', record: added }] });
    await client.next(
      (message) => message.t === 'diff' && JSON.stringify(message.data).includes('"drop":["ctl-more"]'),
    );
    expect(switcher.view.controllers).toBe(1);
    const links = client.got
      .slice(before)
      .filter((message) => message.t === 'diff' && JSON.stringify(message.data).includes('"calling"'));
    expect(links).toEqual([]);
  });

  it('calls a device anew when its address is another', async () => {
    const { client, rig } = await demo();
    const other = await startSwitcher();
    other.request({ verb: 'take', input: 9 });
    const record = showOn(1).find((each): each is DeviceRecord => each.kind === 'device');
    const from = { ...record, version: 1 } as DeviceRecord;
    const readings = client.follow<ReadingsView>(`readings:${device}`);
    await readings;
    rig.edit({
      title: 'Move',
      changes: [{ op: 'update', from, to: { ...from, data: { ...from.data, port: other.port } } }],
    });
    await client.next(
      (message) =>
        message.t === 'diff' &&
        message.topic === `readings:${device}` &&
        JSON.stringify(message.data).includes('"program":{"value":9'),
    );
  });

  it('once in service stays as it is while edits gather as a draft, and steps back in one step', async () => {
    const { client, rig } = await demo();
    await client.follow<PageView>(`page:${page}`);
    expect(putInService(rig.db, '', Date.now())).toBe(1);
    void rig.engine.onShowChanged();
    await client.next((message) => message.t === 'diff' && JSON.stringify(message.data).includes('"revision":1'));
    rig.edit({ title: 'Rename', changes: [{ op: 'update', from: cut, to: renamed(cut, 'Hard cut') }] });
    await client.next(
      (message) =>
        message.t === 'diff' && message.topic === 'status' && JSON.stringify(message.data).includes('"revision":1'),
      client.got.length,
    );
    expect(client.got.some((message) => faceOf(message, 'ctl-cut')?.segments[0]?.text === 'Hard cut')).toBe(false);
    expect(putInService(rig.db, '', Date.now())).toBe(2);
    void rig.engine.onShowChanged();
    await client.next((message) => faceOf(message, 'ctl-cut')?.segments[0]?.text === 'Hard cut');
    const from = client.got.length;
    expect(stepBack(rig.db)).toEqual({ ok: true, value: 1 });
    void rig.engine.onShowChanged();
    await client.next((message) => faceOf(message, 'ctl-cut')?.segments[0]?.text === 'Cut', from);
  });

  it('keeps the drivers of the revision in service: a newer one acts from the next revision on, and Step back brings the old one back', async () => {
    const switcher = await startSwitcher();
    const records = showOn(switcher.port).map((record) =>
      record.kind === 'device' ? { ...record, data: { ...record.data, driver: 'house-switcher' } } : record,
    );
    const rig = await startRig(records, shippedDrivers);
    const client = await TestClient.open(rig.url);
    // Version 1 takes to program, version 2 sets preview: which of them acts is seen at the device.
    const install = (version: number, verb: string) =>
      installDriver(rig.db, 'house-switcher', houseDriver(version, verb), version);
    const pressAfter = async (change: () => unknown, input: number) => {
      change();
      await rig.engine.onShowChanged();
      // A device whose driver has changed is called anew.
      await until(
        () => client.press(page, `ctl-program-${input}`),
        ({ outcome }) => outcome !== 'lost',
      );
      const { preview, program } = switcher.view;
      return { preview, program };
    };
    await pressAfter(() => install(1, 'TAKE'), 2);
    expect(await pressAfter(() => putInService(rig.db, '', 2), 3)).toEqual({ preview: 2, program: 3 });
    expect(await pressAfter(() => install(2, 'READY'), 4)).toEqual({ preview: 2, program: 4 });
    expect(await pressAfter(() => putInService(rig.db, '', 4), 5)).toEqual({ preview: 5, program: 4 });
    expect(await pressAfter(() => stepBack(rig.db), 6)).toEqual({ preview: 5, program: 6 });
  });

  it('is the same after a restart of the engine, with the aim and the as-run', async () => {
    const { client, rig, switcher } = await demo();
    client.say({ t: 'aim', aim: 'dry' });
    await client.press(page, 'ctl-program-3');
    await rig.restart();
    const again = await TestClient.open(rig.url);
    expect(await again.follow<StatusView>('status')).toMatchObject({ aim: 'dry', recording: true });
    const { rows } = await again.follow<RowsView<AsRunRow>>('as-run');
    expect(rows.map((row) => row.kind)).toEqual(expect.arrayContaining(['aim', 'press']));
    expect(rows.map((row) => row.n)).toEqual([...rows.map((row) => row.n)].sort((a, b) => a - b));
    await linkIs(again, 'up');
    expect(switcher.view.controllers).toBe(1);
  });
});
