import type { CompiledDriver, ReadingChange } from '../../core/driver';
import { noEvidence, type Evidence, type Link } from '../../core/session';
import { DeviceSession } from '../devices/device-session';
import type { SessionOptions } from '../devices/session-types';
import { ReadingStore } from '../devices/readings';
import type { OnWire } from '../record/wire-log';

const deviceId = 'tested';
const maxHeard = 512;
const final: ReadonlySet<Link['word']> = new Set([
  'up',
  'one-way',
  'not checked',
  'locked out',
  'occupied',
  'down',
  'off',
]);

/**
 * A connection that is only tried: a session of its own, beside those of the rig, that nothing is remembered of. Whoever made it
 * ends it.
 */
export class TestSession {
  readonly readings = new ReadingStore(() => undefined);
  readonly session: DeviceSession;
  private linkNow: Link = { word: 'calling' };
  private evidenceNow: Evidence = noEvidence;
  private heardNow: number[] = [];
  private onLink: (() => void) | undefined;

  constructor(
    options: SessionOptions,
    private readonly onWire: OnWire = () => undefined,
  ) {
    this.session = new DeviceSession(options, {
      onLink: (link) => {
        // What came first counts: a device that is called again and again is not asked again here.
        if (final.has(this.linkNow.word) && this.linkNow.word !== 'up') return;
        this.linkNow = link;
        this.onLink?.();
      },
      onReadings: (changes, clears) => this.readings.report(deviceId, changes, Date.now(), clears),
      onWire: (dir, bytes, note, about) => {
        if (dir === 'in') this.heardNow.push(...bytes.subarray(0, Math.max(0, maxHeard - this.heardNow.length)));
        this.onWire(dir, bytes, note, about);
      },
      onEvidence: (evidence) => {
        this.evidenceNow = {
          connected: evidence.connected || this.evidenceNow.connected,
          heard: evidence.heard || this.evidenceNow.heard,
          understood: evidence.understood || this.evidenceNow.understood,
          reported: evidence.reported || this.evidenceNow.reported,
        };
      },
      freshReading: (key) => this.fresh(key),
      onAnswer: () => undefined,
      onUnanswered: () => undefined,
      // A connection that is only tried carries out nothing.
      onRequest: () => undefined,
      payOwed: () => undefined,
    });
  }

  get link(): Link {
    return this.linkNow;
  }

  get evidence(): Evidence {
    return this.evidenceNow;
  }

  /** The first bytes that came. */
  get heard(): Uint8Array {
    return Uint8Array.from(this.heardNow);
  }

  /** What the device has reported. */
  get reported(): readonly ReadingChange[] {
    return Object.entries(this.readings.view(deviceId)).flatMap(([key, { value }]) =>
      value === undefined ? [] : [{ key, value }],
    );
  }

  fresh(key: string) {
    return this.readings.fresh(deviceId, key);
  }

  /** Calls the device; resolves with the result, or at the timeout with the state so far. */
  call(withinMs: number, signal?: AbortSignal): Promise<Link> {
    return new Promise((resolve) => {
      const end = () => {
        clearTimeout(timer);
        signal?.removeEventListener('abort', end);
        this.onLink = undefined;
        resolve(this.linkNow);
      };
      const timer = setTimeout(end, withinMs);
      signal?.addEventListener('abort', end, { once: true });
      this.onLink = () => final.has(this.linkNow.word) && end();
      this.session.start();
    });
  }

  end(): void {
    this.session.stop();
  }
}

/** How long a try takes at the most, by what its driver says of itself. */
export const longestTryMs = ({ document, greeting }: CompiledDriver): number => {
  const steps = greeting.reduce((all, step) => all + ('expect' in step ? step.withinMs : 0), 0);
  return document.link.connectTimeoutMs + steps + document.sync.withinMs + 500;
};
