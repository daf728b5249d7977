/** A streaming encoder without a socket: it ramps up, counts, drops frames when the line is thin, and records. */

export type StreamState = 'idle' | 'connecting' | 'live' | 'failed';

export interface EncoderState {
  readonly stream: StreamState;
  readonly recording: boolean;
  /** What it should send, in kbit/s. */
  readonly wantedKbps: number;
  /** What goes out now. */
  readonly kbps: number;
  readonly droppedFrames: number;
  /** Seconds on air and recorded. */
  readonly streamSeconds: number;
  readonly recordSeconds: number;
  readonly destination: string;
  readonly preset: string;
  readonly freeGigabytes: number;
  readonly inputPresent: boolean;
}

export const presets = ['river-low', 'river-mid', 'river-high'] as const;
const presetKbps: Readonly<Record<string, number>> = { 'river-low': 1500, 'river-mid': 4500, 'river-high': 8000 };
const framesPerSecond = 25;
const connectFrames = 20;

export class EncoderModel {
  private current: EncoderState;
  private frames = 0;
  private connecting = 0;

  constructor(
    destination: string,
    /** Told after each change that somebody made, and once a second while it runs. */
    private readonly onChange: () => void,
  ) {
    this.current = {
      stream: 'idle',
      recording: false,
      wantedKbps: 4500,
      kbps: 0,
      droppedFrames: 0,
      streamSeconds: 0,
      recordSeconds: 0,
      destination,
      preset: 'river-mid',
      freeGigabytes: 212.4,
      inputPresent: true,
    };
  }

  get state(): EncoderState {
    return this.current;
  }

  /** Starts or stops the stream. Fails when there is nowhere to send it or nothing to send. */
  run(on: boolean): string | undefined {
    const { stream, destination, inputPresent } = this.current;
    if (!on) return this.change({ stream: 'idle', kbps: 0 });
    if (stream === 'live' || stream === 'connecting') return undefined;
    if (destination === '') return 'no destination is set';
    if (!inputPresent) return 'there is no picture at the input';
    this.connecting = connectFrames;
    return this.change({ stream: 'connecting', droppedFrames: 0, streamSeconds: 0 });
  }

  record(on: boolean): string | undefined {
    if (on && this.current.freeGigabytes < 1) return 'the card is full';
    if (on === this.current.recording) return undefined;
    return this.change(on ? { recording: true, recordSeconds: 0 } : { recording: false });
  }

  setBitrate(kbps: number): string | undefined {
    return this.change({ wantedKbps: kbps });
  }

  choosePreset(preset: string): string | undefined {
    const wantedKbps = presetKbps[preset];
    return wantedKbps === undefined ? `there is no preset “${preset}”` : this.change({ preset, wantedKbps });
  }

  setDestination(destination: string): string | undefined {
    if (this.current.stream !== 'idle') return 'the destination cannot change while the stream runs';
    return this.change({ destination });
  }

  setInput(inputPresent: boolean): string | undefined {
    const fails = !inputPresent && this.current.stream !== 'idle';
    return this.change({ inputPresent, ...(fails ? { stream: 'failed', kbps: 0 } : {}) });
  }

  /** For its page: frames are lost now, as on a thin line. */
  loseFrames(count: number): string | undefined {
    return this.change({ droppedFrames: this.current.droppedFrames + count });
  }

  /** One frame passes. */
  frame(): void {
    this.frames += 1;
    const now = this.current;
    if (now.stream === 'connecting') {
      this.connecting -= 1;
      if (this.connecting <= 0) this.change({ stream: 'live', kbps: Math.round(now.wantedKbps * 0.2) });
    }
    if (this.frames % framesPerSecond !== 0) return;
    const { stream, recording, wantedKbps } = this.current;
    if (stream !== 'live' && !recording) return;
    // The bitrate climbs to what is wanted within some seconds and then breathes a little.
    const { kbps } = this.current;
    const towards = Math.round(kbps + (wantedKbps - kbps) * 0.5 + ((this.frames * 37) % 41) - 20);
    this.change({
      ...(stream === 'live' ? { kbps: Math.max(0, towards), streamSeconds: this.current.streamSeconds + 1 } : {}),
      ...(recording
        ? { recordSeconds: this.current.recordSeconds + 1, freeGigabytes: round(this.current.freeGigabytes - 0.001) }
        : {}),
    });
  }

  private change(change: Partial<EncoderState>): undefined {
    this.current = { ...this.current, ...change };
    this.onChange();
    return undefined;
  }
}

const round = (gigabytes: number): number => Math.round(gigabytes * 1000) / 1000;
