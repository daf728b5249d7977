import { describe, expect, it, vi } from 'vitest';
import { foreign, linkIs, printed, saysOf, send, start, startPython, tested } from './support/foreign-end';
import { until } from './support/rig';

/**
 * MIDI. Over a serial line the other end is mido, a package for Python, behind a pseudo terminal. The ports of the computer are those of a double of
 * the library that opens them: the machines that run these tests have none.
 */

/** Prints what it hears, in mido’s words; a program change is answered by a controller in running status and an exclusive message. */
const desk = `
import os, pty, tty, mido
master, slave = pty.openpty()
tty.setraw(slave)
print(0, flush=True)
print(os.ttyname(slave), flush=True)
parser = mido.Parser()
while True:
    parser.feed(os.read(master, 200))
    for message in parser:
        print(message, flush=True)
        if message.type == 'program_change':
            volume = mido.Message('control_change', channel=message.channel, control=7, value=message.program).bytes()
            os.write(master, bytes(volume) + b'\\xf8' + bytes([10, 64]) + bytes(mido.Message('sysex', data=(0x43, message.program)).bytes()))
            os.write(master, bytes(mido.Message('pitchwheel', channel=message.channel, pitch=-8192).bytes()))
`;

describe('MIDI over a serial line', () => {
  foreign('is understood by another program, and understands it', async () => {
    const device = await startPython(desk);
    const path = await until(
      () => device.lines.shift(),
      (line) => line !== undefined,
    );
    const rig = await start('generic-midi-serial', 1, { host: path, options: { channel: 3, showFormat: 'sound' } });
    await linkIs(rig, 'not checked');
    expect(await send(rig, 'program', { program: 12 })).toMatchObject({ outcome: 'sent' });
    await saysOf(rig, 'controller[7].value', 12);
    await saysOf(rig, 'controller[10].value', 64);
    await saysOf(rig, 'exclusive', '43 0C');
    await saysOf(rig, 'bend', 0);
    await send(rig, 'control', { controller: 7, value: 100 });
    await send(rig, 'tap', { note: 60, velocity: 99 });
    await send(rig, 'bend', { value: 8192 });
    await send(rig, 'machine', { command: 'play' });
    await send(rig, 'showControl', { command: 'go', cue: '12.5', list: '3' });
    await printed(device.lines, [
      'program_change channel=2 program=12 time=0',
      'control_change channel=2 control=7 value=100 time=0',
      'note_on channel=2 note=60 velocity=99 time=0',
      'pitchwheel channel=2 pitch=0 time=0',
      'sysex data=(127,127,6,2) time=0',
      'sysex data=(127,127,2,16,1,49,50,46,53,0,51) time=0',
    ]);
  });
});

/** The ports of the double: what was sent to which, who listens, and whether there is MIDI at all. */
const ports = vi.hoisted(() => ({
  names: ['Desk 24:0', 'Pads 28:0'],
  sent: [] as [string, string][],
  inputs: new Map<string, (delta: number, message: Buffer) => void>(),
  isThere: true,
}));

vi.mock('@julusian/midi', () => {
  const getPortNames = () => {
    if (!ports.isThere) throw new Error('Failed to initialise RtMidi');
    return ports.names;
  };
  class Input {
    static readonly getPortNames = getPortNames;
    private listener: ((delta: number, message: Buffer) => void) | undefined;
    ignoreTypes() {}
    on(_event: string, listener: (delta: number, message: Buffer) => void) {
      this.listener = listener;
    }
    openPortByName(name: string) {
      if (this.listener) ports.inputs.set(name, this.listener);
    }
    destroy() {}
  }
  class Output {
    static readonly getPortNames = getPortNames;
    private name = '';
    openPortByName(name: string) {
      this.name = name;
    }
    send(message: Buffer) {
      ports.sent.push([this.name, message.toString('hex')]);
    }
    destroy() {}
  }
  return { Input, Output };
});

describe('a MIDI port of this computer', () => {
  it('is found by its name, whatever number the system puts behind it', async () => {
    const rig = await start('generic-midi', 1, { host: 'midi:Desk 20:0' });
    await linkIs(rig, 'not checked');
    expect(await send(rig, 'control', { controller: 7, value: 1 })).toMatchObject({ outcome: 'sent' });
    expect(ports.sent).toEqual([['Desk 24:0', 'b00701']]);
    ports.inputs.get('Desk 24:0')?.(0, Buffer.from('903c64', 'hex'));
    await saysOf(rig, 'key[60].velocity', 100);
    expect((await tested(rig, { devices: ['D1'] })).slice(0, 2)).toMatchObject([
      { stage: 'address', verdict: { is: 'passed' } },
      { stage: 'port', verdict: { is: 'passed' } },
    ]);
  });

  it('that is not there is named, and comes up when it is plugged in', async () => {
    const rig = await start('generic-midi', 1, { host: 'midi:Keys' });
    await until(
      () => rig.engine.api.health().links[0]?.link,
      (link) => link?.cause === 'midi-missing',
    );
    ports.names = [...ports.names, 'Keys 32:0'];
    await linkIs(rig, 'not checked');
    // It is pulled again: the system says nothing, so its list is looked at.
    ports.names = ports.names.filter((name) => !name.startsWith('Keys'));
    await until(
      () => rig.engine.api.health().links[0]?.link,
      (link) => link?.cause === 'midi-missing',
      4000,
    );
  });

  it('is refused in plain words on a computer without MIDI, also when that goes away later', async () => {
    try {
      const rig = await start('generic-midi', 1, { host: 'midi:Desk' });
      await linkIs(rig, 'not checked');
      ports.isThere = false;
      await until(
        () => rig.engine.api.health().links[0]?.link,
        (link) => link?.cause === 'midi-none',
        4000,
      );
      const lines = await tested(rig, { devices: ['D1'] });
      expect(lines.at(-1)).toMatchObject({ stage: 'port', verdict: { is: 'failed', trouble: 'midi-none' } });
    } finally {
      ports.isThere = true;
    }
  });
});
