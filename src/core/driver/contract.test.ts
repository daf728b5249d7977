import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compiled } from '../../../test/support/records';
import { shippedDrivers } from '../../drivers';
import { checkNewDriver } from './check-new';
import { compileDriver } from './compile';
import { contractBridge, contractOf } from './contract';
import { deviceRoles } from './contract-tables';
import type { DriverDocument } from './schema';

/** A camera of another make: other names, other ranges, and one command less. */
const gimbal = {
  format: 1,
  id: 'gimbal',
  version: 1,
  title: 'Gimbal',
  role: 'camera',
  link: { kind: 'tcp', port: 7000 },
  framing: { kind: 'lines', ending: 'lf' },
  commands: {
    goto: {
      title: 'Go to a memory',
      says: 'Memory {memory}',
      params: { memory: { title: 'Memory', value: { type: 'whole', min: 1, max: 99 } } },
      send: 'GOTO {memory}',
    },
    zoomIn: {
      title: 'Closer',
      says: 'Closer at {speed}',
      params: { speed: { title: 'Speed', value: { type: 'whole', min: 0, max: 100 } } },
      send: 'CLOSER {speed}',
    },
    iris: {
      title: 'Iris',
      says: 'Iris {opening}',
      params: { opening: { title: 'Opening', value: { type: 'decimal', min: -1, max: 1, decimals: 2 } } },
      send: 'IRIS {opening}',
    },
  },
  readings: {
    opening: { title: 'Iris', value: { type: 'decimal', min: -1, max: 1 } },
    pan: { title: 'Pan', value: { type: 'decimal', unit: '°' } },
  },
  replies: [
    { match: '^IRIS (?P<v>.*)$', set: { opening: '{v}' } },
    { match: '^PAN (?P<v>.*)$', set: { pan: '{v}' } },
  ],
  contract: {
    commands: {
      recall: { command: 'goto', params: { preset: 'memory' } },
      iris: { command: 'iris', params: { step: 'opening' } },
    },
    readings: { iris: 'opening' },
  },
};
const visca = compiled(shippedDrivers.find((each) => (each as DriverDocument).id === 'ptz-camera')).document;
const other = compiled(gimbal).document;

describe('the contract of a role', () => {
  it('is kept by every driver that ships: what has its name takes its parameters', () => {
    for (const source of shippedDrivers) {
      const checked = checkNewDriver(source);
      expect([(source as DriverDocument).id, checked.ok || checked.error]).toEqual([
        (source as DriverDocument).id,
        true,
      ]);
    }
  });

  it('is made of names that some driver uses, so that it says nothing about nobody', () => {
    const documents = shippedDrivers.map((each) => compiled(each).document);
    const unused = deviceRoles.flatMap((role) => {
      const own = documents.filter((each) => each.role === role || each.role === 'any');
      return Object.keys(contractOf(role)?.commands ?? {}).filter(
        (name) => !own.some(({ commands, contract }) => name in commands || contract?.commands[name]),
      );
    });
    expect(unused).toEqual([]);
  });

  const problemsOf = (change: object) => {
    const checked = checkNewDriver({ ...gimbal, ...change });
    return checked.ok ? [] : checked.error.map(({ path }) => path);
  };
  it.each([
    [
      'a name that the contract does not have',
      { contract: { commands: { fly: { command: 'goto' } } } },
      'contract.commands.fly',
    ],
    [
      'a command that is not there',
      { contract: { commands: { recall: { command: 'nowhere' } } } },
      'contract.commands.recall',
    ],
    [
      'a parameter that is not there',
      { contract: { commands: { recall: { command: 'goto', params: { preset: 'number' } } } } },
      'contract.commands.recall.params.preset',
    ],
    ['a reading that is not there', { contract: { readings: { iris: 'nowhere' } } }, 'contract.readings.iris'],
    [
      'what every object has, which is no command',
      { contract: { commands: { recall: { command: 'constructor', params: { preset: 'name' } } } } },
      'contract.commands.recall',
    ],
    [
      'what every object has, which is no name of the contract',
      { contract: { commands: { constructor: { command: 'goto' } } } },
      'contract.commands.constructor',
    ],
    [
      'a reading of another type under a name of the contract',
      {
        readings: { ...gimbal.readings, pan: { title: 'Pan', value: { type: 'text' } } },
      },
      'readings.pan',
    ],
    [
      'a command under a name of the contract that needs something else',
      {
        commands: {
          ...gimbal.commands,
          home: {
            title: 'Home',
            says: 'Home {axis}',
            params: { axis: { title: 'Axis', value: { type: 'text' } } },
            send: 'HOME {axis}',
          },
        },
      },
      'commands.home.params.axis',
    ],
  ])('finds %s', (_, change, path) => expect(problemsOf(change)).toContain(path));

  it('is broken by no document that was installed before', () => {
    const home = { title: 'Home', params: { axis: { title: 'Axis', value: { type: 'text' } } }, send: 'HOME {axis}' };
    expect(compileDriver({ ...gimbal, commands: { ...gimbal.commands, home } }).ok).toBe(true);
  });
});

describe('a bridge between two drivers of a role', () => {
  const bridge = contractBridge('camera', visca, other);
  const back = contractBridge('camera', other, visca);
  if (!bridge || !back) throw new Error('There is no bridge.');

  it('is not needed within one driver', () => expect(contractBridge('camera', visca, visca)).toBeUndefined());

  it('renames commands, parameters and readings, and keeps what has no other name', () => {
    expect(bridge.command('recall').command).toBe('goto');
    expect(bridge.command('recall').paramName('preset')).toBe('memory');
    expect(bridge.reading('iris')).toBe('opening');
    expect(bridge.reading('pan')).toBe('pan');
    expect(bridge.command('focusTo').command).toBe('focusTo');
    expect(back.command('goto').command).toBe('recall');
  });

  it('keeps numbers, and the place of a share between its ends', () => {
    expect(bridge.command('recall').value('preset', 7)).toBe(7);
    expect([0, 7].map((speed) => bridge.command('zoomIn').value('speed', speed))).toEqual([0, 100]);
    expect([0, 17].map((step) => bridge.command('iris').value('step', step))).toEqual([-1, 1]);
    expect([0, 17].map((step) => bridge.readingValue('iris', step))).toEqual([-1, 1]);
  });

  it('there and back is the same for every value of every parameter', () => {
    let moved = 0;
    const commands = Object.entries(visca.commands).flatMap(([id, { params }]) =>
      Object.entries(params).flatMap(([param, { value }]) =>
        value.type === 'whole' && typeof value.min === 'number' && typeof value.max === 'number' && id in other.commands
          ? [{ id, param, min: value.min, max: value.max }]
          : [],
      ),
    );
    expect(commands.length).toBeGreaterThan(1);
    fc.assert(
      fc.property(fc.constantFrom(...commands), fc.nat(), ({ id, param, min, max }, n) => {
        const value = min + (n % (max - min + 1));
        const there = bridge.command(id);
        const name = there.paramName(param);
        if (name === undefined) throw new Error(`${id} lost ${param}.`);
        const sent = there.value(param, value);
        if (sent !== value) moved += 1;
        const home = back.command(there.command);
        expect([home.command, home.paramName(name), home.value(name, sent)]).toEqual([id, param, value]);
      }),
    );
    expect(moved).toBeGreaterThan(30);
  });
});
