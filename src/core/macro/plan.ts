import type { Condition, MacroData, MacroDoes, MacroSend, MacroStep, WayOn } from '../show';

/** What is to be done at one moment. */
export interface PlannedStep {
  /** The step of the macro; a pulse is two moments of one step. */
  readonly step: string;
  readonly half?: 'on' | 'off';
  /** When it is sent, in milliseconds from the segment's zero point. */
  readonly sendAt: number;
  /** When it acts, by what its driver says; when it is sent where that says nothing. */
  readonly actAt: number;
  readonly does: Exclude<MacroDoes, { is: 'pulse' }>;
}

export interface PlannedSegment {
  readonly name: string;
  readonly part?: 'reset' | 'way out';
  readonly waits?: { readonly until: Condition; readonly mostMs: number; readonly otherwise: WayOn };
  readonly onlyIf?: Condition;
  readonly times: number;
  /** From its beginning to its zero point. */
  readonly preRollMs: number;
  /** From its zero point to its end. */
  readonly lengthMs: number;
  /** In the order of sending. */
  readonly steps: readonly PlannedStep[];
}

/** How long after sending a command acts, in milliseconds; 0 where nobody knows. */
export type ActsAfter = (send: MacroSend) => number;

/** When each step has to leave, and how long each segment takes. */
export const planOf = (segments: MacroData['segments'], actsAfter: ActsAfter): PlannedSegment[] =>
  segments.map(({ name, part, waits, onlyIf, times = 1, steps }) => {
    const planned = steps.flatMap((step) => momentsOf(step, actsAfter)).sort((a, b) => a.sendAt - b.sendAt);
    return {
      name,
      ...(part ? { part } : {}),
      ...(waits ? { waits } : {}),
      ...(onlyIf ? { onlyIf } : {}),
      times,
      preRollMs: Math.max(0, -(planned[0]?.sendAt ?? 0)),
      lengthMs: Math.max(0, ...planned.map(({ actAt }) => actAt)),
      steps: planned,
    };
  });

/** The moments of one step: one, or two of a pulse. */
export function momentsOf({ id, at, acts, does }: MacroStep, actsAfter: ActsAfter): PlannedStep[] {
  const moment = (send: MacroSend | undefined, time: number, half?: 'on' | 'off'): PlannedStep => {
    const delay = send ? actsAfter(send) : 0;
    const sendAt = acts ? time - delay : time;
    const what = does.is === 'pulse' ? ({ is: 'send', send: send ?? does.on } as const) : does;
    return { step: id, ...(half ? { half } : {}), sendAt, actAt: sendAt + delay, does: what };
  };
  if (does.is === 'pulse') return [moment(does.on, at, 'on'), moment(does.off, at + does.forMs, 'off')];
  return [moment(does.is === 'send' ? does.send : undefined, at)];
}

/** Every command of a step. */
export const sendsOfStep = ({ does }: MacroStep): MacroSend[] =>
  does.is === 'send' ? [does.send] : does.is === 'pulse' ? [does.on, does.off] : [];
