import { createServer } from 'node:net';
import { describe, expect, it } from 'vitest';
import { driverTrialSchema, type DriverTrialLine, type DriverTrialRequest } from '../src/core/live';
import { linkIs, start } from './support/foreign-end';
import { onTestFinished, TestClient, until, type TestRig } from './support/rig';

/** A driver document is tried at a device before anything is installed. */

async function startDimmer() {
  const heard: string[] = [];
  const server = createServer((socket) => {
    socket.on('error', () => undefined);
    socket.write('LEVEL 1 IS 40\r\n');
    socket.on('data', (chunk) => {
      heard.push(String(chunk));
      if (String(chunk).startsWith('SET 1 ')) socket.write(`LEVEL 1 IS ${String(chunk).slice(6)}`);
    });
  });
  onTestFinished(() => void server.close());
  await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve));
  return { port: (server.address() as { port: number }).port, heard };
}

const base = { format: 1, id: 'dimmer', version: 1, title: 'Dimmer', role: 'lights' };
const document = {
  ...base,
  link: { kind: 'tcp', port: 9100, direction: 'both' },
  framing: { kind: 'lines', ending: 'crlf' },
  commands: {
    set: {
      title: 'Set',
      says: 'Set {level}',
      params: { level: { title: 'Level', value: { type: 'whole', min: 0, max: 100 } } },
      send: 'SET 1 {level}',
      confirm: { by: 'readings', all: [{ reading: 'level', equals: { param: 'level' } }], withinMs: 1000 },
    },
    move: { title: 'Move', says: 'Move', send: 'MOVE', stop: { command: 'halt', params: {} } },
    halt: { title: 'Halt', says: 'Halt', send: 'HALT', class: 'stop' },
  },
  readings: { level: { title: 'Level', value: { type: 'whole' } } },
  replies: [{ match: '^LEVEL 1 IS (?P<level>[0-9]+)$', set: { level: '{level}' } }],
};

async function tried(rig: TestRig, request: Omit<DriverTrialRequest, 'document'>, of: unknown = document) {
  const lines: DriverTrialLine[] = [];
  const whole = driverTrialSchema.parse({ document: JSON.stringify(of), listenMs: 200, ...request });
  await rig.engine.api.tools?.tryDocument(whole, (line) => lines.push(line), new AbortController().signal);
  return lines;
}

describe('a driver document at a device', () => {
  it('calls, sends, listens and hangs up; what goes over the wire and what it means is told', async () => {
    const { port, heard } = await startDimmer();
    const rig = await start('generic-text-tcp', 1, { enabled: false });
    const at = { host: '127.0.0.1', port };
    const lines = await tried(rig, { at, command: { id: 'set', params: { level: 62 } } });
    expect(heard).toEqual(['SET 1 62\r\n']);
    const kinds = lines.map((line) => (line.t === 'wire' ? line.dir : line.t));
    expect(kinds).toEqual(expect.arrayContaining(['link', 'in', 'out', 'ended', 'readings']));
    expect(lines.find(({ t }) => t === 'ended')).toMatchObject({ outcome: 'confirmed' });
    expect(lines.at(-1)).toEqual({ t: 'readings', readings: [{ key: 'level', value: 62 }] });
    const desk = await TestClient.open(rig.url);
    await desk.follow('as-run');
    await until(
      () => JSON.stringify(desk.topic('as-run')),
      (record) => record.includes(`The workbench sent “set” to 127.0.0.1:${port}: confirmed.`),
    );
    // Nothing of it is in the rig.
    expect(rig.engine.api.health().links.map(({ tag }) => tag)).toEqual(['D1']);
  });

  it('sends bytes that no command has, and stops what a command began', async () => {
    const { port, heard } = await startDimmer();
    const rig = await start('generic-text-tcp', 1, { enabled: false });
    const at = { host: '127.0.0.1', port };
    expect((await tried(rig, { at, bytes: '53 45 54 20 31 20 37 0D 0A' })).at(-1)).toMatchObject({
      readings: [{ key: 'level', value: 7 }],
    });
    await tried(rig, { at, command: { id: 'move', params: {} } });
    expect(heard.slice(1)).toEqual(['MOVE\r\n', 'HALT\r\n']);
  });

  it.each<[string, object, unknown, string, RegExp]>([
    ['a document with a mistake', {}, { ...document, replies: [{ match: '(', set: {} }] }, 'bad-document', /replies/],
    ['a command that it does not have', { command: { id: 'fly' } }, document, 'bad-command', /no command “fly”/],
    [
      'a value out of range',
      { command: { id: 'set', params: { level: 300 } } },
      document,
      'bad-command',
      /above the largest, 100/,
    ],
    ['bytes that are none', { bytes: '5G' }, document, 'bad-command', /Character 2/],
    ['no address', { at: { host: '', port: 1 } }, document, 'no-device', /type an address/],
  ])('%s is refused with the reason, and nobody is called', async (_, request, of, code, message) => {
    const { port, heard } = await startDimmer();
    const rig = await start('generic-text-tcp', 1, { enabled: false });
    const lines = await tried(rig, { at: { host: '127.0.0.1', port }, ...request }, of);
    expect(lines).toEqual([{ t: 'refused', code, message: expect.stringMatching(message) }]);
    expect(heard).toEqual([]);
  });

  it('a device that takes one connection is not taken from the rig unless that is asked for', async () => {
    const { port } = await startDimmer();
    const rig = await start('generic-text-tcp', port);
    await linkIs(rig, 'up');
    const { id: device = '' } = rig.engine.api.deviceByTag('D1') ?? {};
    const one = { ...document, link: { ...document.link, controllers: 'one' } };
    expect(await tried(rig, { device }, one)).toMatchObject([{ t: 'refused', code: 'held' }]);
    expect(rig.engine.api.health().links[0]?.link.word).toBe('up');
    const lines = await tried(rig, { device, interrupt: true }, one);
    expect(lines.at(-1)).toMatchObject({ readings: [{ value: 40 }] });
  });

  it('in a rehearsal nothing reaches a device', async () => {
    const { port, heard } = await startDimmer();
    const rig = await start('generic-text-tcp', 1, { enabled: false });
    const desk = await TestClient.open(rig.url);
    desk.say({ t: 'aim', aim: 'dry' });
    await until(
      () => rig.engine.api.health().aim,
      (aim) => aim === 'dry',
    );
    const lines = await tried(rig, { at: { host: '127.0.0.1', port }, command: { id: 'set', params: { level: 1 } } });
    expect(lines).toMatchObject([{ t: 'refused', code: 'not-live' }]);
    expect(heard).toEqual([]);
  });
});
