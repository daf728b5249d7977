import { monitorEventLoopDelay } from 'node:perf_hooks';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { compileDriver, type DriverCommand, type DriverDocument, type DriverParameter } from '../../src/core/driver';
import type { Scalar } from '../../src/core/result';
import { shippedDrivers } from '../../src/drivers';
import type { StandinTag } from '../../src/standins';
import { fleetDrivers, startFleetRig, type FleetRig } from './fleet';
import { runAsOne, until } from './rig';

/**
 * Every command of a driver at the smallest, the largest and a middle value of each parameter, against its stand-in on a real socket: the
 * outcome, the reading, and the stand-in's own state over HTTP.
 */

export type State = Record<string, any>; // eslint-disable-line @typescript-eslint/no-explicit-any -- many kinds of state, each looked into by its own row
export type Params = Readonly<Record<string, Scalar>>;
type Check = (state: State, params: Params) => void;
type Orders = readonly (readonly [command: string, params: Params])[];
type OrdersFor = Readonly<Record<string, (params: Params) => Orders>>;

export interface DriverWalk {
  readonly tags: readonly StandinTag[];
  /** What the stand-in itself must be like afterwards, by driver and command. Every command has its row. */
  readonly checks: Readonly<Record<string, Readonly<Record<string, Check>>>>;
  /** What is done first, so that the device can carry the command out. Keys are a driver and a command. */
  readonly before?: Readonly<Record<string, Orders>>;
  readonly beforeEach?: OrdersFor;
  readonly afterEach?: OrdersFor;
  /** The values of parameters, where smallest, middle and largest are not the ones to try. */
  readonly limits?: Readonly<Record<string, Readonly<Record<string, readonly Scalar[]>>>>;
  /** Waits until the stand-in can take the next command. */
  readonly ready?: (f: FleetRig, tag: StandinTag, kind: string) => Promise<unknown>;
}

const documents = new Map<string, DriverDocument>();
for (const document of shippedDrivers) {
  const compiled = compileDriver(document);
  if (!compiled.ok) throw new Error(JSON.stringify(compiled.error));
  documents.set(compiled.value.document.id, compiled.value.document);
}

export const near = (value: number, wanted: Scalar | undefined, within: number): void =>
  expect(Math.abs(value - Number(wanted)), `${value} is near ${String(wanted)}`).toBeLessThanOrEqual(within);
export const at = <T>(list: readonly T[], n: Scalar | undefined): T => list[Number(n) - 1] as T;

/** What each command of the results board leaves behind, over either link. */
export const boardChecks: Readonly<Record<string, Check>> = {
  text: (s, p) => expect(at(s.rows, p.row)).toBe(p.text),
  clear: (s, p) => expect(at(s.rows, p.row)).toBe(''),
  clearAll: (s) => expect(s.rows).toEqual(['', '', '', '', '', '']),
  brightness: (s, p) => expect(s.brightness).toBe(p.level),
  show: (s, p) => expect(s.shown).toBe(p.on),
  look: (s) => expect(s.power).toBe(true),
};

/** Smallest, middle and largest of a parameter; all of them where there are few. */
function valuesOf(param: DriverParameter, given: readonly Scalar[] | undefined): readonly Scalar[] {
  if (given) return given;
  const { value } = param;
  switch (value.type) {
    case 'whole':
    case 'decimal': {
      const [min, max] = [Number(value.min ?? 0), Number(value.max ?? 100)];
      const middle = value.type === 'whole' ? Math.round((min + max) / 2) : (min + max) / 2;
      return [...new Set([min, middle, max])];
    }
    case 'choice':
      return value.choices.map((choice) => choice.value);
    case 'onOff':
      return [true, false];
    case 'time':
      return [0, 10.4];
    default:
      return ['a', 'some text'];
  }
}

/** One set of parameters for each value of each parameter; the others are at their own values in turn. */
function sets(name: string, command: DriverCommand, limits: NonNullable<DriverWalk['limits']>): Params[] {
  const values = Object.entries(command.params).map(
    ([id, param]) => [id, valuesOf(param, limits[name]?.[id])] as const,
  );
  const most = Math.max(1, ...values.map(([, list]) => list.length));
  return Array.from({ length: most }, (_, n) =>
    Object.fromEntries(values.map(([id, list]) => [id, list[Math.min(n, list.length - 1)] ?? list[0] ?? 0])),
  );
}

export function walkDrivers({
  tags,
  checks,
  before = {},
  beforeEach = {},
  afterEach = {},
  limits = {},
  ready,
}: DriverWalk): void {
  describe('every command of every driver', () => {
    let f: FleetRig;
    let end: () => Promise<void>;
    const delay = monitorEventLoopDelay({ resolution: 20 });
    beforeAll(async () => {
      delay.enable();
      [f, end] = await runAsOne(() => startFleetRig(tags));
      for (const tag of tags) await f.linkIs(tag, 'up');
    });
    afterAll(() => end());

    const kinds = tags.map((tag) => ({ tag, kind: fleetDrivers[tag].replace(/-bare$/, '') }));
    const rows = kinds.flatMap(({ tag, kind }) =>
      Object.keys(documents.get(fleetDrivers[tag])?.commands ?? {}).map((command) => ({ tag, kind, command })),
    );

    it('has a row of its own', () => {
      const missing = rows.filter(({ kind, command }) => !checks[kind]?.[command]);
      expect(missing).toEqual([]);
    });

    it.each(rows)(
      '$tag $command',
      async ({ tag, kind, command }) => {
        const name = `${kind} ${command}`;
        const spec = documents.get(fleetDrivers[tag])?.commands[command];
        if (!spec) throw new Error(name);
        const all = async (list: readonly (readonly [string, Params])[]) => {
          for (const [id, params] of list)
            expect(await f.send(tag, id, params), `${id} before or after`).toMatchObject({ reason: undefined });
        };
        // C4 takes the same messages as C1 in another way: one value of each is enough.
        for (const params of sets(name, spec, limits).slice(0, tag === 'C4' ? 1 : undefined)) {
          await all(before[name] ?? []);
          await all(beforeEach[name]?.(params) ?? []);
          await ready?.(f, tag, kind);
          const result = await f.send(tag, command, params);
          const wanted = spec.confirm ? 'confirmed' : 'sent';
          expect({ params, outcome: result.outcome, reason: result.reason }).toEqual({
            params,
            outcome: wanted,
            reason: undefined,
          });
          if (spec.confirm?.by === 'readings') {
            for (const { reading, index, equals, within } of spec.confirm.all) {
              if (typeof equals !== 'object' || !('param' in equals) || params[equals.param] === undefined) continue;
              const key = index ? reading.replace('[]', `[${params[index]}]`) : reading;
              const now = f.reading(tag, key);
              if (within === undefined) expect(now, key).toBe(params[equals.param]);
              else near(Number(now), params[equals.param], within);
            }
          }
          const state = await until(
            () => f.state(tag),
            (s) => {
              try {
                checks[kind]?.[command]?.(s, params);
                return true;
              } catch {
                return false;
              }
            },
            1000,
          ).catch(() => f.state(tag));
          checks[kind]?.[command]?.(state, params);
          await all(afterEach[name]?.(params) ?? []);
        }
      },
      60_000,
    );

    it('leaves no frame that could not be read', (context) => {
      // Engine and stand-ins share this process: while it stands still, answers come after their time and belong to nothing.
      const stoodStillMs = delay.max / 1e6;
      if (stoodStillMs > 200) return context.skip(`The machine stood still for ${Math.round(stoodStillMs)} ms.`);
      const faults = f.rig.engine.api.health().links.filter((link) => link.faults > 0);
      expect(faults.map(({ tag, faults: count }) => [tag, count])).toEqual([]);
    });
  });
}
