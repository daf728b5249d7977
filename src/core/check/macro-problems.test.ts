import { describe, expect, it } from 'vitest';
import { compiled, controlRecord, deviceRecord, macroRecord as macro } from '../../../test/support/records';
import visionSwitcher from '../../drivers/vision-switcher.json';
import type { MacroRecord, MacroStep, PageRecord } from '../show';
import { problemsOfControl } from './control-problems';
import { actsAfter, problemsOfMacro } from './macro-problems';

const driver = compiled({ ...visionSwitcher, link: { ...visionSwitcher.link, gapMs: 40 } });
const device = { ...deviceRecord('SW1'), id: 'sw' };
const step = (id: string, at: number, command: string, params: object = {}): MacroStep =>
  ({ id, at, does: { is: 'send', send: { device: 'sw', command, params } } }) as MacroStep;
const begins = (id: string, macro: string, params: Record<string, string | number> = {}): MacroStep => ({
  id,
  at: 0,
  does: { is: 'macro', macro, params },
});
const race: PageRecord = {
  kind: 'page',
  id: 'race',
  version: 1,
  data: {
    name: 'Race',
    order: 1,
    columns: 4,
    rows: 4,
    note: '',
    zones: [{ id: 'steer', title: 'Steer', col: 0, row: 0, cols: 2, rows: 2, pick: { devices: ['sw'] } }],
    shifts: [{ id: 'rain', name: 'Rain' }],
  },
};
const found = (one: MacroRecord, ...others: MacroRecord[]) =>
  problemsOfMacro(one, {
    devices: new Map([['sw', device]]),
    driverOf: () => driver,
    macros: new Map([one, ...others].map((each) => [each.id, each])),
    page: (id) => (id === 'race' ? race : undefined),
    hasPanel: (id) => id === 'director',
  }).map(({ message }) => message);

describe('a macro is checked before it runs', () => {
  it('and one that works has nothing to mend', () => {
    const fine = macro('fine', [{ steps: [step('a', 0, 'take', { input: 3 }), step('b', 100, 'cut')] }]);
    expect(found(fine)).toEqual([]);
  });

  it.each<[string, MacroRecord, string]>([
    ['empty', macro('m', [{}]), 'It is empty'],
    ['a command that is gone', macro('m', [{ steps: [step('a', 0, 'explode')] }]), 'SW1 has no command “explode”.'],
    ['out of range', macro('m', [{ steps: [step('a', 0, 'take', { input: 400 })] }]), 'Input'],
    ['a parameter left out', macro('m', [{ steps: [step('a', 0, 'take')] }]), 'Input'],
    [
      'a parameter that the macro does not have',
      macro('m', [{ steps: [step('a', 0, 'take', { input: { value: 'camera' } })] }]),
      'The macro has no parameter “camera”.',
    ],
    [
      'a device that is not in the rig',
      macro('m', [
        { steps: [{ id: 'a', at: 0, does: { is: 'send', send: { device: 'no', command: 'cut', params: {} } } }] },
      ]),
      'Its device is not in the rig.',
    ],
    [
      'faster than the device takes it',
      macro('m', [{ steps: [step('a', 0, 'cut'), step('b', 15, 'cut')] }]),
      'SW1 takes a command every 40 ms; this one comes 15 ms after the one before.',
    ],
    [
      'a wait that never comes true',
      macro('m', [
        {
          steps: [step('a', 0, 'cut')],
          waits: {
            until: { op: 'equals', reading: { device: 'no', key: 'x' }, to: 1 },
            mostMs: 1000,
            otherwise: 'stop',
          },
        },
      ]),
      'this never comes true',
    ],
    [
      'a wait that compares what cannot be compared',
      macro('m', [
        {
          steps: [step('a', 0, 'cut')],
          onlyIf: { op: 'equals', reading: { device: 'sw', key: 'program' }, to: 'four' },
        },
      ]),
      'cannot be compared',
    ],
    [
      'a macro that no longer exists',
      macro('m', [{ steps: [begins('a', 'gone')] }]),
      'The macro that it begins no longer exists',
    ],
    ...(
      [
        ['a level that is gone', { is: 'shift', page: 'race', shift: 'sun' }, 'no such level'],
        ['a zone that no longer exists', { is: 'pick', page: 'race', zone: 'x', device: 'sw' }, 'no such zone'],
        [
          'a device that a zone cannot drive',
          { is: 'pick', page: 'race', zone: 'steer', device: 'no' },
          'cannot drive',
        ],
      ] as const
    ).map(([name, does, said]): [string, MacroRecord, string] => [
      name,
      macro('m', [{ steps: [{ id: 'a', at: 0, does }] }]),
      said,
    ]),
    [
      'a page that no longer exists',
      macro('m', [{ steps: [{ id: 'a', at: 0, does: { is: 'page', page: 'x' } }] }]),
      'The page',
    ],
    [
      'a panel that is gone',
      macro('m', [{ steps: [{ id: 'a', at: 0, does: { is: 'note', text: 'x', panel: 'x' } }] }]),
      'The panel',
    ],
  ])('and says: %s', (_name, one, message) => {
    expect(found(one).join(' ')).toContain(message);
  });

  it('and names a round of macros that call each other, and bad parameters of one that is called', () => {
    const [a, b, c] = [
      macro('a', [{ steps: [begins('1', 'b')] }]),
      macro('b', [{ steps: [begins('1', 'c')] }]),
      macro('c', [{ steps: [begins('1', 'a')] }]),
    ];
    expect(found(a, b, c)).toEqual(['It calls itself in a circle: a → b → c → a. Remove one of these steps.']);
    const called = macro('called', [{ steps: [step('a', 0, 'cut')] }], {
      params: [{ name: 'input', title: 'Input', value: 1 }],
    });
    expect(found(macro('m', [{ steps: [begins('1', 'called', { input: 'x' })] }]), called).join()).toContain(
      'takes a number',
    );
    expect(found(macro('m', [{ steps: [begins('1', 'called', { other: 1 })] }]), called).join()).toContain(
      'no parameter “other”',
    );
  });

  it('with what the driver says of when a command acts', () => {
    const sources = { devices: new Map([['sw', device]]), driverOf: () => driver };
    expect(actsAfter({ device: 'sw', command: 'cut', params: {} }, sources)).toBe(20);
    expect(actsAfter({ device: 'sw', command: 'take', params: {} }, sources)).toBe(0);
    expect(actsAfter({ device: 'no', command: 'cut', params: {} }, sources)).toBe(0);
  });
});

describe('a control', () => {
  const problems = (responses: object) =>
    problemsOfControl(controlRecord('c', { responses: { tap: [], ...responses } }), {
      device: () => device,
      page: () => undefined,
      hasMacro: (id) => id === 'there',
      document: () => driver.document,
    }).flatMap(({ what }) => (what === 'page-gone' ? [] : [what]));

  it('whose macro is gone is unresolved', () => {
    expect(problems({ runs: { macro: 'gone', params: {} } })).toEqual(['macro-gone']);
    expect(problems({ runs: { macro: 'there', params: {} } })).toEqual([]);
  });

  it.each(['release', 'turns', 'long', 'off'])('is checked at every gesture: %s', (gesture) => {
    const sends = [{ device: 'sw', command: 'explode', params: {} }];
    const as = {
      release: sends,
      turns: [sends],
      long: { afterMs: 800, sends },
      off: { afterMs: 800, again: 'end', sends },
    };
    expect(problems({ [gesture]: as[gesture as keyof typeof as] })).toEqual(['command-gone']);
  });
});
