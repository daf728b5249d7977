import { existsSync } from 'node:fs';
import { describe, expect } from 'vitest';
import { troubleOf } from '../src/core/diagnosis';
import { lineSettings } from '../src/engine/devices/links/serial-link';
import { foreign, linkIs, printed, saysOf, send, start, startPython, tested } from './support/foreign-end';
import { until } from './support/rig';

/**
 * Serial ports, with a pseudo terminal whose other side is another program. What only a real line has (speed, parity, a cable that is pulled out of
 * its adapter) is not in it.
 */

/** A heater: `T?` gives `T=` and its temperature, `SET 21` is answered by `OK`, anything else by `E`; all end with CR. */
const heater = `
import os, pty, time, tty
master, slave = pty.openpty()
tty.setraw(slave)
print(0, flush=True)
print(os.ttyname(slave), flush=True)
rest, target = b'', 20
while True:
    rest += os.read(master, 200)
    while b'\\r' in rest:
        line, rest = rest.split(b'\\r', 1)
        text = line.decode('ascii')
        if text == 'T?': os.write(master, b'T=%d\\r' % target)
        elif text == 'BYE':
            # The port disappears, as when the adapter is unplugged.
            os.close(slave)
            os.close(master)
            print('gone', flush=True)
            time.sleep(60)
        elif text.startswith('SET '):
            target = int(text[4:])
            print('set', target, flush=True)
            os.write(master, b'O')
            os.write(master, b'K\\r')
        else: os.write(master, b'E\\r')
`;

const options = {
  ends: 'cr',
  answered: 'each',
  answers: 'OK | T=',
  errors: 'E',
  asked: 'yes',
  question: 'T?',
  everyMs: 200,
  silentAfterMs: 1000,
  answerWithinMs: 500,
};

const temperature = {
  commands: {},
  readings: { own1: { title: 'Temperature', value: { type: 'decimal', unit: '°C' } } },
  replies: [{ match: '^T=(?P<value>.*)$', set: { own1: '{value}' } }],
};

async function startHeater() {
  const device = await startPython(heater);
  const [path = ''] = await until(
    () => device.lines,
    (lines) => lines.length > 0,
  );
  device.lines.length = 0;
  return { path, lines: device.lines };
}

describe('a device at a serial port', () => {
  foreign('is up, reports, and does what it is told', async () => {
    const { path, lines } = await startHeater();
    const rig = await start('generic-text-serial', 1, { host: path, options, additions: temperature });
    await linkIs(rig, 'up');
    await saysOf(rig, 'own1', 20);
    expect(await send(rig, 'line', { text: 'SET 23' })).toMatchObject({ outcome: 'confirmed' });
    await printed(lines, ['set 23']);
    await saysOf(rig, 'own1', 23);
    expect(await send(rig, 'line', { text: 'BOIL' })).toMatchObject({ outcome: 'refused' });
  });

  foreign('is named as in use where another device of the rig has it open, and as unplugged when it goes', async () => {
    const { path, lines } = await startHeater();
    const first = await start('generic-text-serial', 1, { host: path, options });
    await linkIs(first, 'up');
    const second = await start('generic-text-serial', 1, { host: path, options });
    await causeIs(second, 'serial-taken');
    void send(first, 'line', { text: 'BYE' });
    await printed(lines, ['gone']);
    await causeIs(first, 'serial-unplugged', 'serial-missing');
    await until(
      () => existsSync(path),
      (there) => !there,
    );
    await causeIs(first, 'serial-missing');
  });

  foreign('that says nothing is not called up', async () => {
    const { path } = await startHeater();
    const mute = { ...options, question: '', everyMs: 100, silentAfterMs: 300, answered: 'no' };
    const rig = await start('generic-text-serial', 1, { host: path, options: { ...mute, ends: 'lf' } });
    await linkIs(rig, 'silent');
  });

  foreign('is tested without a network, and each trouble of a line has its own name', async () => {
    const { path } = await startHeater();
    const rig = await start('generic-text-serial', 1, { host: path, options });
    await linkIs(rig, 'up');
    const stages = await tested(rig, { devices: ['D1'] });
    expect(stages.map(({ stage }) => stage)).toEqual([
      'address',
      'port',
      'protocol',
      'signIn',
      'identity',
      'roundTrip',
      'reports',
    ]);
    expect(troubleOf(stages.map(({ verdict }) => verdict))).toBeUndefined();
    const candidate = { driver: 'generic-text-serial', host: path, port: 1, user: '', options };
    const troubleAt = async (more: object) => {
      const last = (await tested(rig, { candidate: { ...candidate, ...more } })).at(-1);
      return [last?.stage, last?.verdict.trouble];
    };
    // Open in the rig already.
    expect(await troubleAt({})).toEqual(['address', 'used-twice']);
    expect(await troubleAt({ host: '/dev/ttyNOBODY' })).toEqual(['port', 'serial-missing']);
    expect(await troubleAt({ host: '' })).toEqual(['address', 'no-address']);
    const { path: other } = await startHeater();
    // The heater waits for CR and says nothing.
    const mute = { host: other, options: { ...options, ends: 'lf' } };
    expect(await troubleAt(mute)).toEqual(['roundTrip', 'mute']);
  });
});

async function causeIs(rig: Awaited<ReturnType<typeof start>>, ...wanted: readonly string[]): Promise<void> {
  await until(
    () => rig.engine.api.health().links[0]?.link,
    (link) => link?.word === 'down' && wanted.includes(link.cause ?? ''),
  );
}

describe('the settings of a line', () => {
  foreign('are read as people write them', () => {
    expect(lineSettings({ baudRate: 19_200, format: '7E2', flow: 'rts-cts' })).toEqual({
      baudRate: 19_200,
      dataBits: 7,
      parity: 'even',
      stopBits: 2,
      rtscts: true,
      xon: false,
      xoff: false,
    });
  });
});
