import { describe, expect, it } from 'vitest';
import type { MacroStep, ShowRecord } from '../src/core/show';
import { startFleetRig } from './support/fleet';
import { controlRecord, macroRecord, pageRecord } from './support/records';
import { runAsOne, TestClient, until } from './support/rig';

/**
 * A show in random order: hands press, hold, fall silent, leave and come back, pages change under them, devices are cut off, macros are
 * begun and stopped, the engine is killed. At the end of each scene every hand lets go, and the stand-ins must be still: nothing moves,
 * and nothing is on that a release, a pulse or a turning off should have switched off.
 *
 *   MODEL_STEPS=10000 MODEL_SEEDS=1,2,3 npx vitest run test/show-model.test.ts
 */
const stepCount = Number(process.env.MODEL_STEPS ?? 250);
const seeds = (process.env.MODEL_SEEDS ?? '7').split(',').map(Number);
const sceneSteps = 50;

const key = (n: number, on: boolean) => ({ device: 'dev-SW1', command: 'key', params: { key: n, on } });
const light = (on: boolean, which: string) => ({ device: 'dev-G1', command: 'light', params: { light: which, on } });
const pulse = (id: string, at: number, which: string, forMs: number): MacroStep => ({
  id,
  at,
  does: { is: 'pulse', on: light(true, which), off: light(false, which), forMs },
});
const pan = (device: string) => ({ device, command: 'move', params: { direction: 'left', panSpeed: 1, tiltSpeed: 1 } });

const records: ShowRecord[] = [
  pageRecord('page', 'Model', { columns: 9, rows: 4, shifts: [{ id: 'upper', name: 'upper' }] }),
  pageRecord('other', 'Elsewhere'),
  macroRecord('pulse', [{ steps: [pulse('p', 0, 'boat', 400), pulse('q', 200, 'boat', 500)] }], { again: 'restart' }),
  macroRecord('nested', [
    {
      steps: [
        { id: 'n', at: 0, does: { is: 'macro', macro: 'inner', params: {} } },
        { id: 'e', at: 900, does: { is: 'note', text: 'done' } },
      ],
    },
  ]),
  macroRecord('inner', [{ steps: [pulse('p', 50, 'tower', 600)] }], { again: 'queue', whenDown: 'stop' }),
  macroRecord('lift', [
    {
      steps: [
        { id: 'up', at: 0, does: { is: 'send', send: { device: 'dev-G1', command: 'flagUp', params: {} } } },
        { id: 'off', at: 500, does: { is: 'send', send: { device: 'dev-G1', command: 'flagUpStop', params: {} } } },
      ],
    },
  ]),
  controlRecord('pan', { responses: { tap: [], held: [pan('dev-C1')] } }),
  controlRecord('stick', { col: 1, type: 'stick', drive: { device: 'dev-C2', drive: 'head' } }),
  controlRecord('momentary', { col: 2, responses: { tap: [key(1, true)], release: [key(1, false)] } }),
  controlRecord('long', {
    col: 3,
    responses: { tap: [], long: { afterMs: 200, sends: [key(2, true)] }, release: [key(2, false)] },
  }),
  controlRecord('off', {
    col: 4,
    values: { key: 3 },
    shifts: { upper: { values: { key: 4 } } },
    responses: {
      tap: [{ device: 'dev-SW1', command: 'key', params: { key: { value: 'key' }, on: true } }],
      off: {
        afterMs: 500,
        again: 'restart',
        sends: [{ device: 'dev-SW1', command: 'key', params: { key: { value: 'key' }, on: false } }],
      },
    },
  }),
  controlRecord('horn', { col: 5, responses: { tap: [], held: [{ device: 'dev-G1', command: 'horn', params: {} }] } }),
  controlRecord('begins', {
    col: 6,
    responses: { tap: [], release: [key(1, false)], runs: { macro: 'pulse', params: {} } },
  }),
];
const tags = ['SW1', 'C1', 'C2', 'G1'] as const;
const holdable = ['pan', 'stick', 'momentary', 'long', 'horn', 'begins', 'pan', 'stick'] as const;
const macros = ['pulse', 'nested', 'lift', 'inner'] as const;

/** Mulberry32: small, and the same everywhere for the same seed. */
function randomOf(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

interface Hand {
  readonly id: string;
  readonly control: string;
  readonly client: TestClient;
  word: NodeJS.Timeout | undefined;
}

describe.each(seeds)('a show in random order, seed %i', (seed) => {
  it(
    'leaves nothing moving and nothing on',
    async () => {
      const [f, end] = await runAsOne(() => startFleetRig(tags, records));
      const random = randomOf(seed);
      const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
      const soon = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
      let log: string[] = [];
      const reached = new Map<string, number>();
      const reach = (what: string) => reached.set(what, (reached.get(what) ?? 0) + 1);
      let ids = 0;
      const newId = () => `model-${seed}-${(ids += 1)}`;
      let panels: TestClient[] = [];
      const hands = new Set<Hand>();
      const faulty = new Set<string>();
      const open = async () => {
        const panel = await TestClient.open(`${f.rig.url}?panel`);
        panel.say({ t: 'sub', topics: ['page:page'] });
        panels.push(panel);
      };
      const quiet = (hand: Hand) => {
        clearInterval(hand.word);
        hand.word = undefined;
      };
      const drop = (hand: Hand) => {
        quiet(hand);
        hands.delete(hand);
      };
      const stick = (hand: Hand) =>
        hand.client.say({ t: 'turn', id: hand.id, page: 'page', control: 'stick', x: -0.15 - random() * 0.1, y: 0 });
      const begin = () => {
        const client = pick(panels);
        const hand: Hand = { id: newId(), control: pick(holdable), client, word: undefined };
        hand.word = setInterval(() => client.say({ t: 'still', id: hand.id }), 250);
        if (hand.control === 'stick') stick(hand);
        else client.say({ t: 'press', id: hand.id, page: 'page', control: hand.control, gesture: 'hold', guard: true });
        hands.add(hand);
        return hand.control;
      };
      const ops: readonly (readonly [number, string, () => Promise<string> | string])[] = [
        [10, 'hold', begin],
        [
          8,
          'release',
          () => {
            const hand = pick([...hands]);
            if (!hand) return 'none';
            hand.client.say({ t: 'release', id: hand.id });
            if (!hand.word) reach('released after silence');
            if (faulty.size > 0) reach('released while a device was away');
            drop(hand);
            return hand.control;
          },
        ],
        [
          3,
          'silence',
          () => {
            const hand = pick([...hands]);
            if (hand) quiet(hand);
            return hand?.control ?? 'none';
          },
        ],
        [
          2,
          'speak again',
          () => {
            const hand = pick([...hands].filter(({ word }) => !word));
            if (!hand) return 'none';
            hand.word = setInterval(() => hand.client.say({ t: 'still', id: hand.id }), 250);
            if (hand.control === 'stick') stick(hand);
            reach('spoke again');
            return hand.control;
          },
        ],
        [
          6,
          'stick',
          () => {
            const hand = [...hands].find(({ control }) => control === 'stick');
            if (hand) stick(hand);
            return hand ? 'moved' : 'none';
          },
        ],
        [
          6,
          'tap off',
          () => {
            const upper = random() < 0.5;
            const client = pick(panels);
            client.say({
              t: 'press',
              id: newId(),
              page: 'page',
              control: 'off',
              gesture: 'tap',
              ...(upper ? { context: 'page;shift=upper' } : {}),
            });
            return upper ? 'upper' : 'usual';
          },
        ],
        [
          3,
          'page changes',
          () => {
            const client = pick(panels);
            client.say({ t: 'unsub', topics: ['page:page'] });
            client.say({ t: 'sub', topics: ['page:other'] });
            client.say({ t: 'sub', topics: ['page:page'] });
            for (const hand of [...hands]) if (hand.client === client) reach('page changed under a hand');
            return '';
          },
        ],
        [
          1,
          'panel closes',
          async () => {
            const client = pick(panels);
            client.close();
            panels = panels.filter((each) => each !== client);
            for (const hand of [...hands]) if (hand.client === client) drop(hand);
            await open();
            return '';
          },
        ],
        [
          6,
          'macro',
          () => {
            const macro = pick(macros);
            f.client.say({ t: 'run', id: newId(), macro, params: {}, aim: 'live' });
            return macro;
          },
        ],
        [
          3,
          'stop macros',
          () => {
            f.client.say({ t: 'end run', way: 'stop' });
            reach('macros stopped');
            return '';
          },
        ],
        [
          1.2,
          'cut off',
          async () => {
            const tag = pick(tags);
            faulty.add(tag);
            if (hands.size > 0) reach('cut off under a hand');
            if (tag.startsWith('C')) await f.operate(tag, 'faults', { lossPercent: 100 });
            else {
              await f.operate(tag, 'faults', { refuse: true });
              await f.operate(tag, 'drop');
            }
            return tag;
          },
        ],
        [
          1.5,
          'back',
          async () => {
            const [tag] = faulty;
            if (!tag) return 'none';
            faulty.delete(tag);
            await f.operate(tag, 'faults', { refuse: false, lossPercent: 0 });
            return tag;
          },
        ],
        [
          1,
          'slow',
          async () => {
            const tag = pick(tags);
            await f.operate(tag, 'faults', { delayMs: random() < 0.5 ? 0 : 150 });
            return tag;
          },
        ],
        [
          0.25,
          'engine killed',
          async () => {
            if (hands.size > 0) reach('killed under a hand');
            for (const hand of [...hands]) drop(hand);
            for (const panel of panels) panel.close();
            panels = [];
            await f.rig.crash();
            await f.rig.revive();
            f.client = await TestClient.open(f.rig.url);
            for (let n = 0; n < 3; n += 1) await open();
            return '';
          },
        ],
        [
          14,
          'wait',
          async () => {
            const ms = Math.round(random() ** 2 * 120);
            await soon(ms);
            return String(ms);
          },
        ],
      ];
      const weight = ops.reduce((sum, [each]) => sum + each, 0);
      const step = async () => {
        let at = random() * weight;
        const op = ops.find(([each]) => (at -= each) < 0) ?? ops[0];
        if (!op) return;
        const [, name, act] = op;
        // A client that was just cut off cannot be spoken through any more.
        log.push(`${name} ${await act()}`);
      };
      const settle = async () => {
        for (const hand of [...hands]) {
          hand.client.say({ t: 'release', id: hand.id });
          drop(hand);
        }
        for (const tag of tags) await f.operate(tag, 'faults', { refuse: false, lossPercent: 0, delayMs: 0 });
        faulty.clear();
        f.client.say({ t: 'end run', way: 'stop' });
        for (const tag of tags) await f.linkIs(tag, 'up', 20_000);
        const on = async () => {
          const [c1, c2] = [await f.state('C1'), await f.state('C2')] as unknown as { moving: boolean }[];
          const { keys } = (await f.state('SW1')) as unknown as { keys: { on: boolean }[] };
          const { coils } = (await f.state('G1')) as unknown as { coils: boolean[] };
          return [
            c1?.moving && 'C1 moves',
            c2?.moving && 'C2 moves',
            ...keys.map((each, n) => each.on && `key ${n + 1} is on`),
            ...coils.map((each, n) => each && `relay ${n + 1} is on`),
          ].filter(Boolean);
        };
        // Whatever turns off automatically does so within half a second; what was owed to a device goes out when it is back.
        await soon(700);
        try {
          await until(on, (left) => left.length === 0, 6000);
        } catch (error) {
          throw new Error(`${(error as Error).message}\nseed ${seed}, the scene before:\n${log.join('\n')}`);
        }
        // And stays so.
        await soon(250);
        const left = await on();
        if (left.length > 0)
          throw new Error(`${left.join(', ')} again\nseed ${seed}, the scene before:\n${log.join('\n')}`);
        log = [];
      };
      try {
        for (const tag of tags) await f.linkIs(tag, 'up', 10_000);
        for (let n = 0; n < 3; n += 1) await open();
        for (let n = 1; n <= stepCount; n += 1) {
          if (n % sceneSteps === 1)
            for (const tag of ['C1', 'C2'])
              await f.send(tag, 'moveTo', { pan: 160, tilt: 0, speed: 24, tiltSpeed: 20 });
          await step();
          if (n % sceneSteps === 0) await settle();
        }
        await settle();
      } finally {
        for (const hand of [...hands]) quiet(hand);
        await end();
      }
      // A run that never came to what it is for proves nothing.
      if (stepCount >= 1000)
        for (const what of [
          'released after silence',
          'released while a device was away',
          'spoke again',
          'page changed under a hand',
          'macros stopped',
          'cut off under a hand',
          'killed under a hand',
        ])
          expect([what, (reached.get(what) ?? 0) > 0]).toEqual([what, true]);
    },
    60_000 + stepCount * 400,
  );
});
