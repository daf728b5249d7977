import { tallySender, type RecorderView, type ServerMessage } from '../../core/live';
import { beginRecording, hearCommand, hearMacro, hearReading, isFull, quieten, type Recording } from '../../core/macro';
import type { Scalar } from '../../core/result';
import { isEngineKey } from '../../core/show';
import type { AsRun } from '../record/as-run';
import type { Connections } from '../devices/connections';
import type { ReadingStore } from '../devices/readings';
import type { StatusBoard } from '../topics/status-board';
import type { RunningShow } from '../show/running-show';
import type { PreparedSend } from '../devices/session-types';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly connections: Connections;
  readonly status: StatusBoard;
  readonly asRun: AsRun;
}

const toldEveryMs = 250;

/** Records what is done by hand, from panels, from the desk or at the devices, to make a macro of it. One recording at a time. */
export class Recorder {
  private recording: Recording | undefined;
  private who = '';
  private since = 0;
  private stopped = false;
  /** What each device said last, so that only what changes counts. */
  private readonly before = new Map<string, Scalar>();
  private telling: NodeJS.Timeout | undefined;

  constructor(private readonly sources: Sources) {}

  private get view(): RecorderView | null {
    if (!this.recording) return null;
    const { heard } = this.recording;
    return {
      since: this.since,
      who: this.who,
      steps: heard.length,
      full: isFull(this.recording),
      stopped: this.stopped,
    };
  }

  /** Begins anew; what was recorded before and not taken is forgotten. False while one goes on. */
  begin(who: string): boolean {
    if (this.recording && !this.stopped) return false;
    this.recording = beginRecording(performance.now());
    this.who = who;
    this.since = Date.now();
    this.stopped = false;
    this.before.clear();
    const { show, readings } = this.sources;
    for (const device of show.devices.keys())
      for (const [key, { value }] of Object.entries(readings.view(device)))
        if (value !== undefined) this.before.set(`${device} ${key}`, value);
    this.sources.asRun.record({ kind: 'note', text: `${who} records a macro.` });
    this.tell();
    return true;
  }

  /** Ends it, and hands over what was recorded; it stays until it is forgotten, so that it can be handed over again. */
  take(): Extract<ServerMessage, { t: 'recorded' }> {
    this.stopped = true;
    this.tell();
    return { t: 'recorded', heard: this.recording?.heard ?? [] };
  }

  forget(): void {
    this.recording = undefined;
    this.before.clear();
    this.tell();
  }

  /** A command leaves, or would have if the aim were not dry. */
  onCommand(device: string, { id, command, given }: PreparedSend, who: string, run: string | undefined): void {
    if (!this.recording || this.stopped) return;
    const now = performance.now();
    // What a macro sends is in the macro; what the program lights by itself is nobody's doing.
    if (run !== undefined || who === tallySender) this.recording = quieten(this.recording, now, command, device);
    else this.put(hearCommand(this.recording, now, command, { device, command: id, params: given }));
  }

  onMacro(macro: string, params: Readonly<Record<string, Scalar>>): void {
    if (this.recording && !this.stopped) this.put(hearMacro(this.recording, performance.now(), macro, params));
  }

  onReadings(device: string, keys: readonly string[]): void {
    if (!this.recording || this.stopped) return;
    const { show, readings, connections } = this.sources;
    const record = show.deviceOf(device);
    const document = record && show.driverOf(record)?.document;
    for (const key of keys) {
      const value = readings.fresh(device, key);
      const before = this.before.get(`${device} ${key}`);
      if (value === undefined || value === before || isEngineKey(key)) continue;
      this.before.set(`${device} ${key}`, value);
      // What is heard for the first time, or while a connection comes about, has not been done now.
      if (before === undefined || !document || !connections.isUp(device)) continue;
      const now = (other: string) => readings.fresh(device, other);
      this.put(hearReading(this.recording, performance.now(), device, document, key, value, now));
    }
  }

  stop(): void {
    clearTimeout(this.telling);
  }

  private put(recording: Recording): void {
    if (recording === this.recording) return;
    this.recording = recording;
    this.telling ??= setTimeout(() => this.tell(), toldEveryMs);
  }

  private tell(): void {
    clearTimeout(this.telling);
    this.telling = undefined;
    this.sources.status.set({ recorder: this.view });
  }
}
