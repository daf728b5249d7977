import { createHash } from 'node:crypto';
import ModbusRTU from 'modbus-serial';
import { Client as RpcClient } from 'rpc-websockets';
import { describe, expect, it } from 'vitest';
import { warningsOfControl } from '../src/core/check';
import type { StatusView } from '../src/core/live';
import type { ShowRecord } from '../src/core/show';
import { composerPassword, viewerPassword, viewerUser } from '../src/standins';
import { startFleetRig, type FleetRig } from './support/fleet';
import { controlRecord, pageRecord } from './support/records';
import { onTestFinished, TestClient, until } from './support/rig';

/** Composers, slides, walls and relays: what a hand was promised, at the device; and each stand-in of an open protocol against another end. */

const page = pageRecord('page', 'Page');
const tap = (id: string, ...sends: readonly object[]): ShowRecord =>
  controlRecord(id, { responses: { tap: sends as never } });

async function started(
  tags: Parameters<typeof startFleetRig>[0],
  ...records: readonly ShowRecord[]
): Promise<FleetRig> {
  const f = await startFleetRig(tags, [page, ...records]);
  for (const tag of tags) await f.linkIs(tag, 'up');
  return f;
}
let presses = 0;
async function press(f: FleetRig, control: string) {
  const id = `press-${(presses += 1)}-more`;
  f.client.say({ t: 'press', id, page: 'page', control, gesture: 'tap' });
  const message = await f.client.next(
    (each) =>
      each.t === 'press' &&
      each.id === id &&
      'outcome' in each &&
      each.outcome !== 'taken' &&
      each.outcome !== 'waiting',
  );
  return message as unknown as { readonly outcome: string; readonly reason?: string };
}

describe('two composers', () => {
  it('are reached by one button, each by its own password, and each lists what it has', async () => {
    const both = ['dev-P1', 'dev-P2'].map((device) => ({ device, command: 'show', params: { board: 3 } }));
    const f = await started(['P1', 'P2'], tap('both', ...both));
    expect([f.reading('P1', 'board[1].name'), f.reading('P2', 'board[1].name')]).toEqual(['Bow camera', 'Table']);
    expect(await press(f, 'both')).toMatchObject({ outcome: 'confirmed' });
    expect([(await f.state('P1')).current, (await f.state('P2')).current]).toEqual([3, 3]);
    expect(f.reading('P1', 'boardName')).toBe('Two views');
  });

  it('show that a camera froze, and a restart brings it back', async () => {
    const f = await started(['P1']);
    await f.client.follow<StatusView>('status');
    await f.operate('P1', 'operate', { verb: 'freeze', feed: 2 });
    await until(
      () => f.reading('P1', 'feed[2].state'),
      (state) => state === 'frozen',
    );
    await until(
      () => (f.client.topic('status') as StatusView).news.at(-1)?.text,
      (text) => text?.includes('froze') === true,
    );
    expect(await f.send('P1', 'restart', { feed: 2 })).toMatchObject({ outcome: 'confirmed' });
    expect((await f.state('P1')).feeds).toMatchObject(['running', 'running', 'running', 'running']);
    expect(await f.send('P1', 'reload', { feed: 1 })).toMatchObject({
      outcome: 'refused',
      reason: expect.stringContaining('no web page'),
    });
  });

  it('turn away a wrong password, and say who else has them', async () => {
    const f = await started(['P1']);
    await f.operate('P1', 'faults', { otherPassword: true });
    await f.linkIs('P1', 'locked out');
    await f.operate('P1', 'faults', { otherPassword: false, taken: true });
    f.client.say({ t: 'call', device: 'dev-P1' });
    await f.linkIs('P1', 'occupied', 12_000);
    expect(f.link('P1').detail).toBe('In use by: the laptop in the boat house.');
  });

  it('answer a client of JSON-RPC 2.0 from a package', async () => {
    const f = await started(['P1']);
    const heard: Record<string, unknown>[] = [];
    const client = new RpcClient(`ws://127.0.0.1:${f.fleet.devices.get('P1')?.port}/control`, { reconnect: false });
    onTestFinished(() => client.close());
    const salt = new Promise<string>((resolve) => {
      client.on('hello', (params: { readonly salt: string }) => resolve(params.salt));
    });
    client.on('board', (params: Record<string, unknown>) => heard.push(params));
    const proof = createHash('sha256')
      .update(`${await salt}${composerPassword}`)
      .digest('hex');
    await expect(client.call('board.go', {})).rejects.toMatchObject({ code: -32001 });
    expect(await client.call('join', { proof })).toEqual({ place: 'Launch' });
    await client.call('board.show', { board: 4 });
    await until(
      () => heard.at(-1),
      (board) => board?.current === 4,
    );
    await until(
      () => f.reading('P1', 'board'),
      (board) => board === 4,
    );
    await expect(client.call('nothing', {})).rejects.toMatchObject({ code: -32601 });
    await expect(client.call('board.show', { board: 'four' })).rejects.toMatchObject({ code: -32602 });
    await expect(client.call('board.show', { board: 40 })).rejects.toMatchObject({ code: -32010 });
  });
});

describe('slides', () => {
  const talent = tap('talent', { device: 'dev-V1', command: 'message', params: { text: 'Two minutes' } });

  it('tell the talent, and warn while no field is linked to the message', async () => {
    const f = await started(['V1'], talent);
    const warnings = () => {
      const { show, readings } = f.rig.engine.running;
      const control = show.controls.get('talent');
      if (!control) throw new Error('There is no control.');
      return warningsOfControl(control, {
        device: (id) => show.devices.get(id),
        document: (device) => show.driverOf(device)?.document,
        readingNow: (ref) => readings.get(ref),
      });
    };
    expect(warnings()).toEqual([]);
    expect(await press(f, 'talent')).toMatchObject({ outcome: 'confirmed' });
    expect((await f.state('V1')).message).toBe('Two minutes');
    expect(f.reading('V1', 'messageOn')).toBe(true);
    await f.operate('V1', 'operate', { verb: 'link', on: false });
    await until(
      () => f.reading('V1', 'messageOn'),
      (on) => on === false,
    );
    expect(warnings()).toEqual([expect.stringContaining('No field of the talent’s screen is linked')]);
  });

  it('list the slides of the deck that is chosen, with pictures, and read them again when it changes', async () => {
    const f = await started(['V1']);
    expect(f.reading('V1', 'slide[1].title')).toBe('Tidewick Regatta');
    expect(String(f.reading('V1', 'slide[2].picture'))).toMatch(/^data:image\/svg\+xml;base64,/);
    await f.send('V1', 'deck', { deck: 2 });
    await until(
      () => f.reading('V1', 'slide[1].title'),
      (title) => title === 'Safety on the estuary',
    );
    expect([f.reading('V1', 'slide[4].title'), f.reading('V1', 'slide[5].title')]).toEqual(['Signals', undefined]);
    await f.send('V1', 'goTo', { slide: 3 });
    expect([f.reading('V1', 'notes'), f.reading('V1', 'nextTitle')]).toEqual([
      'Stay with the boat. Launch is there in a minute.',
      'Signals',
    ]);
    await f.send('V1', 'goTo', { slide: 4 });
    expect(await f.send('V1', 'next')).toMatchObject({
      outcome: 'refused',
      reason: expect.stringContaining('last slide'),
    });
  });

  it('take a title out by itself after its time', async () => {
    const f = await started(['V1']);
    await f.send('V1', 'title', { title: 2, on: true, seconds: 1 });
    expect(f.reading('V1', 'template[2].on')).toBe(true);
    await until(
      () => f.reading('V1', 'template[2].on'),
      (on) => on === false,
    );
    expect((await f.state('V1')).title).toBe(0);
  });
});

describe('walls', () => {
  it('show a source on all of them by one button, and take only names that match exactly', async () => {
    const everywhere = ['dev-W1', 'dev-W2', 'dev-W3'].map((device) => ({
      device,
      command: 'showAll',
      params: { source: 'Start/Tower' },
    }));
    const f = await started(['W1', 'W2', 'W3'], tap('everywhere', ...everywhere));
    expect(await press(f, 'everywhere')).toMatchObject({ outcome: 'confirmed' });
    for (const tag of ['W1', 'W2', 'W3']) {
      const { monitors } = (await f.state(tag)) as unknown as {
        readonly monitors: readonly { readonly source: string }[];
      };
      expect(new Set(monitors.map(({ source }) => source))).toEqual(new Set(['Start/Tower']));
    }
    expect(await f.send('W1', 'show', { monitor: 1, source: 'start/tower' })).toMatchObject({
      outcome: 'refused',
      reason: expect.stringContaining('there is no source start/tower'),
    });
  });

  it('have a group that goes with its source, no matter who changes it', async () => {
    const f = await started(['W1']);
    await f.send('W1', 'groupShow', { source: 'Finish/Line' });
    await f.send('W1', 'join', { monitor: 2, on: true });
    expect((await f.state('W1')).monitors).toMatchObject([{ source: '' }, { source: 'Finish/Line' }, { source: '' }]);
    await f.operate('W1', 'operate', { verb: 'set', query: 'source=Office/Results&at=group' });
    await until(
      () => f.reading('W1', 'monitor[2].source'),
      (source) => source === 'Office/Results',
    );
  });

  it('want a name and a password where that is switched on, and take pairs in any order', async () => {
    const f = await started(['W2']);
    const at = `http://127.0.0.1:${f.fleet.devices.get('W2')?.port}`;
    expect((await fetch(`${at}/state`)).status).toBe(401);
    const authorization = `Basic ${Buffer.from(`${viewerUser}:${viewerPassword}`).toString('base64')}`;
    const set = async (query: string) => {
      const answer = await fetch(`${at}/set?${query}`, { headers: { authorization } });
      return [answer.status, await answer.text()];
    };
    expect(await set('volume=30&mode=full&at=1')).toEqual([200, 'done=1']);
    expect(await set('mode=full')).toEqual([400, 'error=at is missing']);
    expect(await set('at=1&colour=red')).toEqual([400, 'error=colour is not known']);
    await until(
      () => f.reading('W2', 'monitor[1].volume'),
      (volume) => volume === 30,
    );
    await f.operate('W2', 'faults', { otherPassword: true });
    await f.linkIs('W2', 'locked out');
  });
});

describe('relays', () => {
  it('fall back when the hand that holds one is gone', async () => {
    const hold = controlRecord('hold', {
      responses: { tap: [], held: [{ device: 'dev-H1', command: 'hold', params: { relay: 3 } }] },
    });
    const f = await started(['H1'], hold);
    const panel = await TestClient.open(f.rig.url);
    panel.say({ t: 'press', id: 'press-held', page: 'page', control: 'hold', gesture: 'hold' });
    const relay = async () => ((await f.state('H1')).relays as unknown as readonly boolean[])[2];
    await until(relay, (on) => on === true);
    panel.close();
    await until(relay, (on) => on === false);
  });

  it('move the blinds by a pulse until they are there, and have the names that the device was given', async () => {
    const f = await startFleetRig(['H1'], [page], undefined, [], { H1: { options: { name1: 'Hall {lights}' } } });
    await f.linkIs('H1', 'up');
    expect([f.reading('H1', 'relay[1].name'), f.reading('H1', 'relay[2].name')]).toEqual([
      'Hall {lights}',
      'Work lights',
    ]);
    expect(await f.send('H1', 'closeBlinds')).toMatchObject({ outcome: 'confirmed' });
    expect([f.reading('H1', 'blindsClosed'), (await f.state('H1')).blinds]).toEqual([true, 0]);
  });

  it('are read and written by a Modbus master from a package', async () => {
    const f = await started(['H1']);
    const master = new ModbusRTU();
    await master.connectTCP('127.0.0.1', { port: f.fleet.devices.get('H1')?.port ?? 0 });
    onTestFinished(() => master.close(() => undefined));
    master.setID(1);
    await master.writeCoil(1, true);
    expect((await master.readCoils(0, 8)).data).toEqual([false, true, false, false, false, false, false, false]);
    await until(
      () => f.reading('H1', 'relay[2].on'),
      (on) => on === true,
    );
    expect((await master.readInputRegisters(0, 4)).data).toEqual([100, 0, 8, 21]);
    await expect(master.readCoils(0, 40)).rejects.toMatchObject({ modbusCode: 2 });
  });
});
