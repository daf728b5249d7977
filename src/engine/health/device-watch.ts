import { AnswerSeries, isLost } from '../../core/health';
import type { Link } from '../../core/session';

/** What the last ten minutes of a device are judged by. */
const lately = 600_000;
/** More events than this in ten minutes say no more than these. */
const mostKept = 500;

interface Sent {
  readonly at: number;
  readonly isFailed: boolean;
}

/** What is seen of one device in passing. */
export class DeviceWatch {
  readonly answers: AnswerSeries;
  wasUp = false;
  sentAt = 0;
  private sent: Sent[] = [];
  private drops: number[] = [];

  constructor(now: number) {
    this.answers = new AnswerSeries(now);
  }

  onSent(isFailed: boolean, now: number): void {
    this.sentAt = now;
    this.sent.push({ at: now, isFailed });
    if (this.sent.length > mostKept) this.sent.shift();
  }

  /** A link that is closed because its device was edited, or the aim changed, has not dropped. */
  onLink(link: Link, before: Link['word'], now: number): void {
    if (link.word === 'up') this.wasUp = true;
    if ((before !== 'up' && before !== 'silent') || !isLost(link)) return;
    this.drops.push(now);
    if (this.drops.length > mostKept) this.drops.shift();
  }

  /** Commands, failed ones among them, and drops of the last ten minutes. */
  counts(now: number): { readonly sent: number; readonly failed: number; readonly drops: number } {
    this.sent = this.sent.filter(({ at }) => at > now - lately);
    this.drops = this.drops.filter((at) => at > now - lately);
    return {
      sent: this.sent.length,
      failed: this.sent.filter(({ isFailed }) => isFailed).length,
      drops: this.drops.length,
    };
  }
}
