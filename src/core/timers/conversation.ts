import { z } from 'zod';
import type { Result } from '../result';
import {
  addTime,
  moveNext,
  pauseTimer,
  restartTimer,
  resumeTimer,
  setMessage,
  setNextByName,
  setNextTimer,
  startNextTimer,
  startTimer,
  stopTimer,
  viewTimers,
  type TimerRefusal,
  type TimersState,
} from './machine';

/**
 * How a list of timers is spoken to: one JSON object a line, as `docs/protocols/clock-machine.md` says. Both sides of it are here without a socket: what
 * an order does, and what is reported.
 */

const text = z
  .string()
  .max(200)
  .regex(/^[^\p{Cc}]*$/u);
const n = z.number().int().min(0).max(1_000_000_000);

const order = z.discriminatedUnion('do', [
  z.strictObject({ n, do: z.literal('start'), id: text }),
  z.strictObject({ n, do: z.literal('startPlace'), place: z.number().int() }),
  z.strictObject({ n, do: z.literal('startNext') }),
  z.strictObject({ n, do: z.literal('pause') }),
  z.strictObject({ n, do: z.literal('resume') }),
  z.strictObject({ n, do: z.literal('restart') }),
  z.strictObject({ n, do: z.literal('stop') }),
  z.strictObject({ n, do: z.literal('add'), seconds: z.number().int().min(-86_400).max(86_400) }),
  z.strictObject({ n, do: z.literal('next'), place: z.number().int() }),
  z.strictObject({ n, do: z.literal('nextId'), id: text }),
  z.strictObject({ n, do: z.literal('nextName'), name: text }),
  z.strictObject({ n, do: z.literal('move'), by: z.number().int().min(-200).max(200) }),
  z.strictObject({ n, do: z.literal('message'), text }),
  z.strictObject({ n, do: z.literal('list') }),
  z.strictObject({ n, do: z.literal('state') }),
  z.strictObject({ n, do: z.literal('ping') }),
]);

type Order = z.infer<typeof order>;

/** The codes of refusals, with the sentence that goes out with them. */
const refusals: Readonly<Record<TimerRefusal | 'not-understood' | 'overlong', readonly [code: number, text: string]>> =
  {
    'not-understood': [1, 'not understood'],
    'no-timer': [2, 'no such timer'],
    'none-begun': [3, 'no timer has begun'],
    'none-next': [4, 'there is no next timer'],
    running: [5, 'it runs already'],
    'not-running': [6, 'it does not run'],
    'too-long': [7, 'a timer has between nothing and a day'],
    overlong: [9, 'line too long'],
  };

function carryOut(state: TimersState, order: Order, now: number): Result<TimersState, TimerRefusal> {
  switch (order.do) {
    case 'start':
      return startTimer(state, order.id, now);
    case 'startPlace':
      return startTimer(state, state.list[order.place - 1]?.id, now);
    case 'startNext':
      return startNextTimer(state, now);
    case 'pause':
      return pauseTimer(state, now);
    case 'resume':
      return resumeTimer(state, now);
    case 'restart':
      return restartTimer(state, now);
    case 'stop':
      return stopTimer(state, now);
    case 'add':
      return addTime(state, order.seconds, now);
    case 'next':
      return setNextTimer(state, state.list[order.place - 1]?.id ?? '');
    case 'nextId':
      return setNextTimer(state, order.id);
    case 'nextName':
      return setNextByName(state, order.name);
    case 'move':
      return moveNext(state, order.by);
    case 'message':
      return setMessage(state, order.text);
    case 'list':
    case 'state':
    case 'ping':
      return { ok: true, value: state };
  }
}

/** What an order leads to: the timers as they are then, and the lines for who has given it. Reports to everybody are separate. */
interface TimersAnswer {
  readonly state: TimersState;
  readonly lines: readonly object[];
}

/** Answers one line. It never throws: what is no order is refused. */
export function answerTimers(state: TimersState, line: string, now: number, date: Date): TimersAnswer {
  let value: unknown;
  try {
    value = JSON.parse(line);
  } catch {
    return { state, lines: [refused(0, 'not-understood')] };
  }
  const parsed = order.safeParse(value);
  if (!parsed.success) {
    const asked = z.looseObject({ n }).safeParse(value);
    return { state, lines: [refused(asked.success ? asked.data.n : 0, 'not-understood')] };
  }
  const done = carryOut(state, parsed.data, now);
  if (!done.ok) return { state, lines: [refused(parsed.data.n, done.error)] };
  const asked = parsed.data.do;
  const told =
    asked === 'list' ? [listReport(state)] : asked === 'state' ? [...reportsOf(state, now), timeReport(date)] : [];
  return { state: done.value, lines: [...told, { ok: parsed.data.n }] };
}

function refused(of: number, why: keyof typeof refusals): object {
  const [code, text] = refusals[why];
  return { no: of, code, text };
}

export const overlongLine = (): object => refused(0, 'overlong');

/** The time of day, in seconds since local midnight. */
export const timeReport = (date: Date): object => ({
  time: date.getHours() * 3600 + date.getMinutes() * 60 + date.getSeconds(),
});

const listReport = ({ list }: TimersState): object => ({
  timers: list.map(({ id, name, speaker, lengthS, warnS, graceS, colour }) => ({
    id,
    name,
    speaker,
    length: lengthS,
    warn: warnS,
    grace: graceS,
    colour: colour ?? '',
  })),
});

/** What is shown now: each line is one report. */
export function reportsOf(state: TimersState, now: number): readonly object[] {
  const { phase, shown, next, leftMs, lengthMs } = viewTimers(state, now);
  const placeOf = (id: string | undefined) => state.list.findIndex((each) => each.id === id) + 1;
  return [
    {
      run: {
        state: phase,
        runs: state.isRunning,
        place: placeOf(state.current),
        id: state.current ?? '',
        name: shown?.name ?? '',
        speaker: shown?.speaker ?? '',
        length: Math.round(lengthMs / 1000),
        left: Math.round(leftMs / 10) / 100,
        colour: shown?.colour ?? '',
      },
    },
    { next: { place: placeOf(state.next), name: next?.name ?? '', speaker: next?.speaker ?? '' } },
    { message: state.message },
  ];
}

/** What everybody is told when the timers have changed: the reports that differ, and the list where it does. */
export function changedReports(before: TimersState, state: TimersState, now: number): readonly object[] {
  const known = new Set(reportsOf(before, now).map((each) => JSON.stringify(each)));
  const changed = reportsOf(state, now).filter((each) => !known.has(JSON.stringify(each)));
  return before.list === state.list ? changed : [listReport(state), ...changed];
}
