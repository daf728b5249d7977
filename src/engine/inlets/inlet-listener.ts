import type { InletAnswer, InletError, InletRequest } from '../../core/inlet';
import type { ReadingChange } from '../../core/driver';
import type { Result } from '../../core/result';
import type { Followers, Subscriber } from './followers';
import type { Subjects } from './subjects';

/** One thing that came in. */
export interface Heard {
  /** What watches wait for. */
  readonly text: string;
  /** What it asks for, where no watch waits for it; `undefined` where it is no request and need not be one. */
  readonly request: () => Result<InletRequest, InletError> | undefined;
  readonly from: string;
  /** Who it is, of those that have a token of their own. */
  readonly caller?: string;
  /** The bytes received, where they are more than the text. */
  readonly bytes?: Uint8Array;
  /** Answers the sender. Returns the bytes sent back, if any. */
  readonly answer: (answer: InletAnswer) => Uint8Array | undefined;
  /** Absent for those who cannot be told of changes. */
  readonly subscriber?: Subscriber;
}

/** What an open inlet tells. */
export interface Listener {
  readonly subjects: Subjects;
  readonly followers: Followers;
  readonly mayComeFrom: (address: string) => boolean;
  /** For the sign-in at a broker elsewhere. */
  readonly password: string;
  /** Returns false when it is not even looked at: its source sends too much. */
  readonly onHeard: (heard: Heard) => boolean;
  /** Somebody begins to follow something, or waits for it. Returns false in the same way. */
  readonly onFollows: (from: string, text: string) => boolean;
  /** Reports readings received from outside, and the keys of those that are no longer sent. */
  readonly onReadings: (news: readonly ReadingChange[], gone: readonly string[]) => void;
  /** A change was sent to a follower. */
  readonly onTold: (bytes: Uint8Array) => void;
  /** Something came in that is not even a message, or that is not taken from there. */
  readonly onRefused: (from: string, why: string) => void;
  /** Its port cannot be opened. */
  readonly onPortFailed: (error: NodeJS.ErrnoException) => void;
  /** What has failed is tried again after a while, a refused sign-in only once somebody has changed something. */
  readonly onState: (state: 'listening' | 'failed' | 'locked out', why?: string) => void;
}

/** An inlet that listens; it ends once. */
export interface InletEnd {
  readonly close: () => void;
}
