import type { FaceView } from '../../core/face';
import type { Explanation, Moment } from '../../core/explain';
import type { AsRunSend } from '../../core/live';
import type { Ending } from '../../core/press';
import { hexOf } from '../devices/prepare';
import type { SendWatch } from '../devices/session-types';
import type { PressSubject } from './press-request';

type Untimed<M> = M extends unknown ? Omit<M, 'ms'> : never;
type Sends = readonly Explanation['sends'][number][];

/** The most moments of one press that are kept. */
const mostMoments = 200;
/** A lamp that changes later than this is not put down to the press. */
const lampWithinMs = 5000;

/** What happens to one press, noted as it happens. */
export class PressTrace {
  private readonly at = Date.now();
  private readonly startedAt = performance.now();
  private readonly moments: Moment[] = [];
  private sends: () => Sends = () => [];
  private named: PressSubject['named'] | undefined;
  private name = { page: '', label: '' };
  private readonly of: Pick<Explanation, 'press' | 'who' | 'gesture' | 'aim' | 'run'>;

  /** Keeps nothing of the subject but what is told of it: an account outlives its press by far. */
  constructor({ request: { id, who, gesture, run }, aim, named }: Pick<PressSubject, 'request' | 'aim' | 'named'>) {
    this.of = { press: id, who, gesture, aim, ...(run === undefined ? {} : { run }) };
    this.named = named;
  }

  note(moment: Untimed<Moment>): void {
    // The end is always noted: readers of the account wait for it.
    if (this.moments.length >= mostMoments && moment.is !== 'ended') return;
    this.moments.push({ ...moment, ms: performance.now() - this.startedAt } as Moment);
  }

  /** @param sends what the press has sent so far */
  follow(sends: () => Sends): void {
    this.sends = sends;
  }

  /** The press is over: what it was called then and what it sent stay as they were. */
  end({ outcome, why, reason }: Ending, name: ReturnType<PressSubject['named']>, sends: readonly AsRunSend[]): void {
    this.name = name;
    this.named = undefined;
    this.sends = () => sends;
    this.note({ is: 'ended', outcome, why, ...(reason === undefined ? {} : { reason }) });
  }

  /** Notes a change of the control's lamp, as long as it can be put down to the press. */
  onFace({ lamp }: FaceView, before: FaceView | undefined): void {
    if (performance.now() - this.startedAt > lampWithinMs) return;
    const word = 'word' in lamp ? lamp.word : '';
    if (before && lamp.show === before.lamp.show && word === ('word' in before.lamp ? before.lamp.word : '')) return;
    this.note({ is: 'lamp', show: lamp.show, word });
  }

  get view(): Explanation {
    return {
      ...this.of,
      at: this.at,
      ...(this.named?.() ?? this.name),
      sends: this.sends().map(({ device, command, says, text }) => ({
        device,
        command,
        text,
        ...(says ? { says } : {}),
      })),
      moments: this.moments,
    };
  }
}

/** Notes what happens to one send of a press. */
export class SendTrace implements SendWatch {
  constructor(
    readonly press: string,
    private readonly trace: PressTrace,
    private readonly send: number,
    private readonly entry: { bytes?: string },
    private readonly onLeft: (() => void) | undefined,
  ) {}

  onQueued(ahead: readonly string[], waiting: number, inFlight: number): void {
    this.trace.note({ is: 'queued', send: this.send, ahead: [...ahead], waiting, inFlight });
  }

  onHeld(ms: number, says: string): void {
    this.trace.note({ is: 'held', send: this.send, forMs: ms, says });
  }

  onBytes(bytes: Uint8Array): void {
    const hex = hexOf(bytes);
    this.entry.bytes = hex;
    this.trace.note({ is: 'left', send: this.send, bytes: hex });
    this.onLeft?.();
  }

  onAnswer(bytes: Uint8Array): void {
    this.trace.note({ is: 'device answered', send: this.send, bytes: hexOf(bytes) });
  }

  onEffect(readings: Parameters<NonNullable<SendWatch['onEffect']>>[0]): void {
    this.trace.note({ is: 'reported', send: this.send, readings: [...readings] });
  }
}
