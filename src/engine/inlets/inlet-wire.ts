import type { WireLog } from '../record/wire-log';

/** Further rows within a second are only counted, so that an inlet does not push out what went to the devices. */
const mostRowsPerSecond = 50;
const mostReasons = 20;
const nothing = new Uint8Array();
const utf8 = new TextEncoder();

/** Records the messages of one inlet on the wire, each with its result. The ports of senders are left out, for they change all the time. */
export class InletWire {
  private second = 0;
  private rows = 0;
  private skipped = 0;
  private readonly reasons = new Set<string>();

  constructor(
    private readonly wire: Pick<WireLog, 'record'>,
    private readonly inlet: string,
  ) {}

  heard(bytes: Uint8Array | undefined, text: string, from: string, press?: string): void {
    this.put('in', bytes ?? utf8.encode(text), `from ${addressOf(from)}`, press);
  }

  /** @param bytes what went back; without any, only what came of it is said */
  came(text: string, bytes: Uint8Array | undefined, press?: string): void {
    if (bytes) this.put('out', bytes, 'answer', press);
    else this.put('note', nothing, text, press);
  }

  /** Each reason is entered once a second, also in a flood. */
  refused(why: string, from: string): void {
    this.look();
    const text = `refused: ${why}, from ${addressOf(from)}`;
    if (this.reasons.has(text) || this.reasons.size >= mostReasons) return;
    this.reasons.add(text);
    this.wire.record(this.inlet, 'note', nothing, text);
  }

  /** A change was sent to a follower. */
  told(bytes: Uint8Array): void {
    this.put('out', bytes, 'report');
  }

  /** A new second begins. */
  private look(): void {
    const second = Math.floor(performance.now() / 1000);
    if (second !== this.second) {
      if (this.skipped > 0) this.wire.record(this.inlet, 'note', nothing, `${this.skipped} rows left out`);
      this.second = second;
      this.rows = 0;
      this.skipped = 0;
      this.reasons.clear();
    }
  }

  private put(dir: 'in' | 'out' | 'note', bytes: Uint8Array, note: string, press?: string): void {
    this.look();
    this.rows += 1;
    if (this.rows > mostRowsPerSecond) this.skipped += 1;
    else this.wire.record(this.inlet, dir, bytes, note, press === undefined ? undefined : { press });
  }
}

const addressOf = (from: string): string => from.replace(/:\d+$/, '');
