import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compiled, deviceRecord } from '../../../test/support/records';
import streamingEncoder from '../../drivers/streaming-encoder.json';
import visionSwitcher from '../../drivers/vision-switcher.json';
import type { Reading } from '../reading';
import type { Scalar } from '../result';
import type { DeviceRecord, TieRecord } from '../show';
import { carriedBy, displaysOf, outputsOf, TallyNetwork, tallyOf, wordOf, type Bus, type Tally, type Tri } from '.';

const switcher = compiled(visionSwitcher).document;
const encoder = compiled(streamingEncoder).document;
const fresh = (value: Scalar): Reading => ({ value, at: 1, freshness: 'fresh' });

/** Everything that the switcher reports, at rest: input 1 on program, 2 on preview. */
const atRest: Readonly<Record<string, Reading>> = {
  program: fresh(1),
  preview: fresh(2),
  mixing: fresh(false),
  black: fresh('off'),
  ...Object.fromEntries(
    [1, 2, 3, 4].flatMap((n) => [
      [`key[${n}].on`, fresh(false)],
      [`key[${n}].source`, fresh(8)],
      [`box[${n}].on`, fresh(false)],
      [`box[${n}].source`, fresh(n + 2)],
    ]),
  ),
  'aux[1].source': fresh(7),
  'aux[2].source': fresh(1),
};
const carried = (more: Readonly<Record<string, Reading>> = {}) => {
  const all = { ...atRest, ...more };
  return carriedBy(switcher, (key) => all[key]);
};
const seen = (bus: Bus, more: Readonly<Record<string, Reading>> = {}) => {
  const on = carried(more);
  const inputs = Array.from({ length: 12 }, (_, n) => n + 1);
  return inputs.filter((input) => on(bus, input) === true);
};
const stale = (value: Scalar): Reading => ({ value, at: 1, freshness: 'stale' });

describe('what a switcher carries', () => {
  it.each<[string, Record<string, Reading>, number[], number[]]>([
    ['at rest', {}, [1], [2]],
    ['in a mix', { mixing: fresh(true) }, [1, 2], [2]],
    ['with a key', { 'key[1].on': fresh(true) }, [1, 8], [2]],
    [
      'with the layout on program',
      { program: fresh(10), 'box[1].on': fresh(true), 'box[4].on': fresh(true) },
      [3, 6, 10],
      [2],
    ],
    ['with the layout on preview', { preview: fresh(10), 'box[2].on': fresh(true) }, [1], [4, 10]],
    [
      'with the layout in a key',
      { 'key[2].on': fresh(true), 'key[2].source': fresh(10), 'box[1].on': fresh(true) },
      [1, 3, 10],
      [2],
    ],
    [
      'with a layout that shows itself',
      { program: fresh(10), 'box[1].on': fresh(true), 'box[1].source': fresh(10) },
      [10],
      [2],
    ],
    ['faded to black', { black: fresh('on'), 'key[1].on': fresh(true) }, [], [2]],
    ['while it fades', { black: fresh('fading') }, [1], [2]],
  ])('%s', (_name, more, onAir, next) => {
    expect([seen('onAir', more), seen('next', more), seen('aux', more)]).toEqual([onAir, next, [1, 7]]);
  });

  it.each<[string, Record<string, Reading>, number, unknown]>([
    ['the program is old', { program: stale(1) }, 5, 'unknown'],
    ['a key’s state is old: what it shows may be on air', { 'key[1].on': stale(true) }, 8, 'unknown'],
    ['a key’s state is old: everything else is as it is', { 'key[1].on': stale(true) }, 5, false],
    ['a key’s state is old: the program is on air all the same', { 'key[1].on': stale(true) }, 1, true],
    ['a key’s source is old, but it is off', { 'key[1].source': stale(8) }, 8, false],
    ['a box of the layout on program is old', { program: fresh(10), 'box[3].on': stale(true) }, 5, 'unknown'],
    ['nobody knows whether it is black', { black: stale('off') }, 1, 'unknown'],
    ['nobody knows whether it is black', { black: stale('off') }, 5, false],
  ])('when %s', (_name, more, input, expected) => {
    expect(carried(more)('onAir', input)).toBe(expected);
  });
});

interface Chain {
  readonly ties: readonly (readonly [source: string, switcher: string, input: number, output?: string])[];
  /** Switchers whose program is not on air by itself. */
  readonly offAir?: readonly string[];
  readonly readings?: Readonly<Record<string, Readonly<Record<string, Reading>>>>;
  readonly recording?: Reading;
}

function tally({ ties, readings = {}, recording = fresh(false), offAir = [] }: Chain) {
  const ids = new Set(['S1', 'S2', 'E', ...ties.map(([source]) => source)]);
  return tallyOf({
    devices: [...ids].map((tag) => {
      const record = { ...deviceRecord(tag), id: tag };
      return offAir.includes(tag) ? { ...record, data: { ...record.data, offAir: true } } : record;
    }),
    ties: ties.map(([source, to, input, output], n): TieRecord => ({
      kind: 'tie',
      id: `t${n}`,
      version: 1,
      data: { source, switcher: to, input, output },
    })),
    documentOf: (id) => (id.startsWith('S') ? switcher : id === 'E' ? encoder : undefined),
    readingNow: ({ device, key }) =>
      device === 'E' ? (key === 'recording' ? recording : undefined) : (readings[device]?.[key] ?? atRest[key]),
  });
}

describe('tally', () => {
  it('goes through the ties', () => {
    const all = tally({
      ties: [
        ['C1', 'S1', 1],
        ['C2', 'S1', 2],
        ['C3', 'S1', 3],
      ],
    });
    expect([...all]).toEqual([
      ['C1', { onAir: true, next: false, recorded: false }],
      ['C2', { onAir: false, next: true, recorded: false }],
      ['C3', { onAir: false, next: false, recorded: false }],
    ]);
  });

  it('of a device on two inputs is that of either', () => {
    expect(
      tally({
        ties: [
          ['C1', 'S1', 5],
          ['C1', 'S1', 1],
          ['C1', 'S1', 2],
        ],
      }).get('C1'),
    ).toMatchObject({ onAir: true, next: true });
  });

  it('goes through a chain of two switchers', () => {
    // S2 feeds input 1 of S1, which is on air; its own preview is next.
    const onAir = tally({
      ties: [
        ['C1', 'S2', 1],
        ['C2', 'S2', 2],
        ['S2', 'S1', 1],
      ],
    });
    expect([onAir.get('C1'), onAir.get('C2'), onAir.get('S2')]).toMatchObject([
      { onAir: true, next: false },
      { onAir: false, next: true },
      { onAir: true, next: false },
    ]);
    // S2 is next: what is on its program comes on air with it, and its preview does not.
    const next = tally({
      ties: [
        ['C1', 'S2', 1],
        ['C2', 'S2', 2],
        ['S2', 'S1', 2],
      ],
    });
    expect([next.get('C1'), next.get('C2')]).toMatchObject([
      { onAir: false, next: true },
      { onAir: false, next: false },
    ]);
    // S2 is nowhere.
    const nowhere = tally({
      ties: [
        ['C1', 'S2', 1],
        ['S2', 'S1', 9],
      ],
    });
    expect(nowhere.get('C1')).toMatchObject({ onAir: false, next: false });
  });

  describe('through an output of a switcher', () => {
    // Aux 2 of S2 feeds input 1 of S1, which is on air. S2: 1 on program, 2 on preview; aux 1 shows 7, aux 2 shows 1.
    const chain = (readings: Chain['readings'] = {}, more: Chain['ties'] = []) =>
      tally({
        ties: [['C1', 'S2', 1], ['C4', 'S2', 4], ['C7', 'S2', 7], ['S2', 'S1', 1, 'aux[2].source'], ...more],
        offAir: ['S2'],
        readings,
      });
    const air = (all: ReadonlyMap<string, Tally>) =>
      [...all].flatMap(([id, { onAir }]) => (onAir === true ? [id] : []));

    it('what that output shows is on air, and what the others show is not', () => {
      expect(air(chain())).toEqual(['C1', 'S2']);
      expect(air(chain({ S2: { 'aux[2].source': fresh(4) } }))).toEqual(['C4', 'S2']);
      expect(chain({ S2: { 'aux[2].source': fresh(9) } }).get('C1')).toMatchObject({ onAir: false, next: false });
    });

    it('what it shows is next while the input that it feeds is, and its preview never', () => {
      const all = chain({ S1: { program: fresh(2), preview: fresh(1) }, S2: { 'aux[2].source': fresh(4) } });
      expect([all.get('C4'), all.get('C1')]).toMatchObject([
        { onAir: false, next: true },
        { onAir: false, next: false },
      ]);
    });

    it('what a layout on it is made of is on air too', () => {
      const all = chain({
        S2: { 'aux[2].source': fresh(10), 'box[1].on': fresh(true), 'box[1].source': fresh(4) },
      });
      expect(air(all)).toEqual(['C4', 'S2']);
    });

    it('nobody knows while what it shows is not fresh, or it has no such output', () => {
      expect(chain({ S2: { 'aux[2].source': stale(1) } }).get('C4')?.onAir).toBe('unknown');
      const none = tally({
        ties: [
          ['C1', 'S2', 1],
          ['S2', 'S1', 1, 'aux[9].source'],
        ],
        offAir: ['S2'],
      });
      expect(none.get('C1')?.onAir).toBe('unknown');
    });

    it('a fade to black of its program does not darken it', () => {
      expect(air(chain({ S2: { black: fresh('on') } }))).toEqual(['C1', 'S2']);
    });

    it('its program is on air by itself, unless that was said not to be so', () => {
      const ties = [
        ['C1', 'S2', 1],
        ['S2', 'S1', 1, 'aux[1].source'],
      ] as const;
      expect(tally({ ties }).get('C1')?.onAir).toBe(true);
      expect(tally({ ties, offAir: ['S2'] }).get('C1')?.onAir).toBe(false);
    });

    it('a picture that goes out over an aux and comes back over another switcher is on air with it', () => {
      // S1 sends input 7 over its aux 1 through S2, whose program comes back at input 8 of S1.
      const loop = (program: number) =>
        tally({
          ties: [
            ['C7', 'S1', 7],
            ['S1', 'S2', 1, 'aux[1].source'],
            ['S2', 'S1', 8],
          ],
          readings: { S1: { program: fresh(program) } },
        }).get('C7')?.onAir;
      expect([loop(8), loop(1)]).toEqual([true, false]);
    });
  });

  it('of switchers in a ring ends', () => {
    const ring = tally({
      ties: [
        ['S1', 'S2', 1],
        ['S2', 'S1', 1],
        ['C1', 'S1', 1],
      ],
    });
    expect(ring.get('C1')).toMatchObject({ onAir: false });
  });

  it('says recorded when what is on air is being recorded, and unknown when nobody knows', () => {
    const ties = [
      ['C1', 'S1', 1],
      ['C2', 'S1', 2],
    ] as const;
    const recorded = (recording: Reading) => [...tally({ ties, recording }).values()].map((each) => each.recorded);
    expect(recorded(fresh(true))).toEqual([true, false]);
    expect(recorded(stale(true))).toEqual(['unknown', false]);
  });

  it('is certain only where it is the same whatever the doubtful readings are', () => {
    const cause = fc.constantFrom('program', 'preview', 'key[1].on', 'key[1].source', 'box[1].on', 'mixing', 'black');
    const setting = fc.record({
      program: fc.constantFrom(1, 2, 10),
      preview: fc.constantFrom(1, 2, 10),
      'key[1].on': fc.boolean(),
      'key[1].source': fc.constantFrom(1, 3, 10),
      'box[1].on': fc.boolean(),
      mixing: fc.boolean(),
      black: fc.constantFrom('off', 'on'),
    });
    const possible: Readonly<Record<string, readonly Scalar[]>> = {
      program: [1, 2, 3, 10],
      preview: [1, 2, 3, 10],
      'key[1].on': [true, false],
      'key[1].source': [1, 2, 3, 10],
      'box[1].on': [true, false],
      mixing: [true, false],
      black: ['off', 'on'],
    };
    const ties = [
      ['C1', 'S1', 1],
      ['C2', 'S1', 2],
      ['C3', 'S1', 3],
    ] as const;
    fc.assert(
      fc.property(cause, setting, (doubtful, set) => {
        const readings = Object.fromEntries(Object.entries(set).map(([key, value]) => [key, fresh(value)]));
        const doubt = tally({ ties, readings: { S1: { ...readings, [doubtful]: stale(1) } } });
        for (const value of possible[doubtful] ?? []) {
          const sure = tally({ ties, readings: { S1: { ...readings, [doubtful]: fresh(value) } } });
          for (const [id, { onAir, next }] of doubt) {
            if (onAir !== 'unknown') expect(onAir).toBe(sure.get(id)?.onAir);
            if (next !== 'unknown') expect(next).toBe(sure.get(id)?.next);
          }
        }
      }),
    );
  });

  it('knows the outputs of a switcher besides its program', () => {
    expect(outputsOf(switcher, { inputs: 12 })).toEqual([
      { key: 'aux[1].source', title: 'Aux source 1' },
      { key: 'aux[2].source', title: 'Aux source 2' },
    ]);
    expect(outputsOf(encoder, {})).toEqual([]);
  });

  it('in a ring of switchers does not depend on which of them is asked for first', () => {
    // S3 and S4 feed each other; whether S4 is in S3’s program is not known, and S3 is set up next on S4.
    const ties = [
      ['S3', 'S1', 1],
      ['S4', 'S3', 1],
      ['S3', 'S4', 2],
    ] as const;
    const readings = { S3: { program: stale(0) }, S4: { program: fresh(1), preview: fresh(2) } };
    const both = [ties, [ties[1], ties[0], ties[2]] as const, ties.toReversed()].map((order) =>
      tally({ ties: order, readings }).get('S4'),
    );
    expect(both).toEqual([both[0], both[0], both[0]]);
    expect(both[0]?.next).toBe('unknown');
  });

  it('kept up to date by reports is what it would be worked out anew', () => {
    const ids = ['S1', 'S2', 'S3', 'S4', 'C1', 'C2', 'C3', 'E'];
    const devices = ids.map((tag) => ({ ...deviceRecord(tag), id: tag }));
    const tie = fc.record({
      source: fc.constantFrom('S2', 'S3', 'S4', 'C1', 'C2', 'C3'),
      switcher: fc.constantFrom('S1', 'S2', 'S3', 'S4'),
      input: fc.integer({ min: 1, max: 4 }),
      output: fc.constantFrom(undefined, undefined, 'aux[1].source'),
    });
    const shown = ['S1', 'S4'].flatMap((id) => [1, 2, 3, 4].map((input) => ({ switcher: id, input })));
    const report = fc.record({
      device: fc.constantFrom('S1', 'S2', 'S3', 'S4'),
      key: fc.constantFrom('program', 'preview', 'mixing', 'aux[1].source', 'key[1].on', 'not of tally'),
      to: fc.integer({ min: 0, max: 4 }),
      doubt: fc.boolean(),
    });
    const recording = fc.record({
      device: fc.constant('E'),
      key: fc.constant('recording'),
      to: fc.nat(1),
      doubt: fc.boolean(),
    });
    let changes = 0;
    fc.assert(
      fc.property(
        fc.array(tie, { maxLength: 8 }),
        fc.array(fc.oneof({ weight: 4, arbitrary: report }, recording), { maxLength: 30 }),
        (ties, reports) => {
          const now = new Map<string, Reading>();
          const sources = {
            devices,
            ties: ties.map((data, n): TieRecord => ({ kind: 'tie', id: `t${n}`, version: 1, data })),
            documentOf: (id: string) => (id.startsWith('S') ? switcher : id === 'E' ? encoder : undefined),
            readingNow: ({ device, key }: { device: string; key: string }) =>
              now.get(`${device} ${key}`) ?? (device === 'E' ? fresh(false) : atRest[key]),
          };
          const network = new TallyNetwork(sources, shown);
          for (const { device, key, to, doubt } of reports) {
            const isFlag = key === 'mixing' || key === 'key[1].on' || key === 'recording';
            const value = isFlag ? to % 2 === 1 : to;
            now.set(`${device} ${key}`, doubt ? stale(value) : fresh(value));
            const before = new Map(network.all);
            const { devices: changed } = network.onReadings(device, [key]);
            changes += changed.length;
            const anew = new TallyNetwork(sources, shown);
            expect([...network.all]).toEqual([...anew.all]);
            for (const id of ['S1', 'S4'])
              for (let n = 1; n <= 4; n += 1) expect(network.ofInput(id, n)).toEqual(anew.ofInput(id, n));
            for (const [id, tally] of anew.all)
              expect(changed.includes(id), id).toBe(JSON.stringify(before.get(id)) !== JSON.stringify(tally));
          }
        },
      ),
      { numRuns: 400 },
    );
    expect(changes).toBeGreaterThan(100);
  });
});

it.each<[Tri, Tri, string]>([
  [true, false, 'onAir'],
  [true, 'unknown', 'onAir'],
  [false, true, 'next'],
  [false, false, 'clear'],
  [false, 'unknown', 'unknown'],
  ['unknown', true, 'unknown'],
  ['unknown', false, 'unknown'],
])('on air %s and next %s is %s in a word', (onAir, next, word) => {
  expect(wordOf({ onAir, next })).toBe(word);
});

describe('the displays of a multiviewer', () => {
  const viewer = (displays: NonNullable<DeviceRecord['data']['displays']>): DeviceRecord => {
    const record = deviceRecord('M1');
    return { ...record, id: 'M1', data: { ...record.data, displays } };
  };
  const shown = (more: Readonly<Record<string, Reading>> = {}, devices: readonly string[] = ['S1', 'C1']) => {
    const readingNow = ({ key }: { key: string }): Reading | undefined =>
      ({ ...atRest, 'input[2].name': fresh('Course'), ...more })[key];
    return displaysOf(
      viewer([
        { number: 1, switcher: 'S1', input: 1 },
        { number: 2, switcher: 'S1', input: 2 },
        { number: 7, switcher: 'S1', input: 3, name: 'Wide' },
      ]),
      {
        network: new TallyNetwork({
          devices: devices.map((tag) => ({ ...deviceRecord(tag), id: tag })),
          ties: [{ kind: 'tie', id: 't', version: 1, data: { source: 'C1', switcher: 'S1', input: 1 } }],
          documentOf: (id) => (id === 'S1' ? switcher : undefined),
          readingNow,
        }),
        nameOf: (id) => (devices.includes(id) ? deviceRecord(id).data.name : undefined),
        readingNow,
      },
    );
  };

  it('bear the names and the tally of the inputs', () => {
    expect(shown({ 'input[1].name': fresh('Tower') })).toEqual([
      { number: 1, text: 'Tower', lamp: 'onAir' },
      { number: 2, text: 'Course', lamp: 'next' },
      { number: 7, text: 'Wide', lamp: 'off' },
    ]);
  });

  it('bear the name of the device that feeds the input while that of the input is not known', () => {
    const { name } = deviceRecord('C1').data;
    expect(shown().map(({ text }) => text)).toEqual([name, 'Course', 'Wide']);
  });

  it('are dark and marked while nobody knows', () => {
    expect(shown({ program: stale(1) })).toEqual([
      { number: 1, text: expect.stringMatching(/^\? /), lamp: 'off' },
      { number: 2, text: '? Course', lamp: 'off' },
      { number: 7, text: '? Wide', lamp: 'off' },
    ]);
    expect(shown({}, []).map(({ text, lamp }) => [text.slice(0, 2), lamp])).toEqual(Array(3).fill(['? ', 'off']));
  });
});
