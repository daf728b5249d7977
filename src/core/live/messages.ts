import type { Explanation } from '../explain';
import type { Heard } from '../macro';
import type { ValueShape } from '../driver';
import type { Problem, Scalar } from '../result';
import type { Why, Outcome } from '../press';
import type { AsRunSend } from './topics';

/** What the engine says to a panel or a desk over `/live`. One JSON text a message. */
export type ServerMessage =
  /** First of all: which start of the engine this is, and its clock. */
  | { readonly t: 'hello'; readonly engine: string; readonly now: number }
  /** A topic whole, as number `n` of its sequence. */
  | { readonly t: 'whole'; readonly topic: string; readonly n: number; readonly data: unknown }
  /** What has changed since number `n - 1`. Who missed that asks for the whole again. */
  | { readonly t: 'diff'; readonly topic: string; readonly n: number; readonly data: unknown }
  /** There is no such topic (any more), or not for this client. */
  | { readonly t: 'none'; readonly topic: string }
  | PressReport
  /** The account of a press so far; without one it is no longer kept, or is not this screen's. */
  | { readonly t: 'explained'; readonly id: string; readonly explanation?: Explanation }
  /** What was recorded by hand, in its order. */
  | { readonly t: 'recorded'; readonly heard: readonly Heard[] }
  /** The desk wants something of this screen. */
  | { readonly t: 'do'; readonly act: ScreenAct }
  /** A way in for a panel, good once and for a while. */
  | { readonly t: 'invited'; readonly panel: string; readonly token: string; readonly forMs: number }
  | { readonly t: 'error'; readonly message: string }
  | { readonly t: 'pong' };

/** What a desk can have a screen do. */
export type ScreenAct =
  /** Says which one it is, over the whole screen. */
  | { readonly do: 'call out'; readonly name: string }
  | { readonly do: 'go'; readonly page: string }
  | { readonly do: 'note'; readonly id: string; readonly text: string }
  /** A page has this level, or the usual one. */
  | { readonly do: 'shift'; readonly page: string; readonly shift?: string }
  /** A zone drives this device, or what it usually does. */
  | { readonly do: 'pick'; readonly page: string; readonly zone: string; readonly device?: string }
  /** In per cent. */
  | { readonly do: 'dim'; readonly brightness: number }
  | { readonly do: 'redraw' }
  | { readonly do: 'close' };

/** One thing that is asked on the panel before a press is carried out. */
export interface Question {
  /** The value of the control that the answer takes the place of. */
  readonly value: string;
  readonly title: string;
  /** What an answer has to be. */
  readonly shape: ValueShape;
  /** What there is to choose from, where only that can be answered. */
  readonly options?: readonly { readonly value: Scalar; readonly title: string }[];
  /** Several of the options, with semicolons between them, or any text, for which the options are examples. */
  readonly takes?: 'several' | 'examples';
  /** May be left empty. */
  readonly isOptional?: true;
  /** The answer that is filled in at first. */
  readonly now?: Scalar;
}

/** What a panel has to ask before a press is carried out. */
export interface QuestionsView {
  /** Until then, by the engine's clock, in milliseconds since 1970. */
  readonly until: number;
  readonly items: readonly (Question & {
    /** What was answered the last times, the newest first. */
    readonly last: readonly Scalar[];
  })[];
  /** What was answered, and will not do. */
  readonly wrong?: Problem;
}

/** How a press stands. A final outcome comes once; a note may follow it. */
export interface PressReport {
  readonly t: 'press';
  readonly id: string;
  readonly outcome: Outcome;
  readonly ms: number;
  readonly reason?: string;
  readonly why?: Why;
  /** A report that came after the outcome `late` was given. */
  readonly note?: string;
  /** What it waits for is an answer at the panel. */
  readonly asks?: QuestionsView;
  /** Of a trial that has ended: what was sent, or would have been. */
  readonly tried?: readonly AsRunSend[];
}
