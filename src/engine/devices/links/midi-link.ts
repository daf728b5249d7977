import type * as Midi from '@julusian/midi';
import { isSameMidiPort, midiPortName } from '../../../core/net';
import type { DownCause } from '../../../core/session';
import type { Exchange, Outgoing } from '../../../core/wire';
import type { DeviceLink, LinkAddress, LinkEvents, Written } from './link';

/** The system does not say when a port disappears, so its list is looked at. */
const lookMs = 2000;
const nothing = new Uint8Array();

/**
 * A connection over a MIDI port of this computer: to what can be written, from what can be read, or both where it has both. An open port proves nothing
 * about the device behind it.
 */
export class MidiLink implements DeviceLink {
  readonly proves = false;
  private input: Midi.Input | undefined;
  private output: Midi.Output | undefined;
  private looking: NodeJS.Timeout | undefined;
  private isEnded = false;

  constructor(
    { host }: LinkAddress,
    private readonly exchange: Exchange,
    private readonly events: LinkEvents,
  ) {
    const wanted = midiPortName(host);
    // Loaded on demand: without the native library everything else still works.
    import('@julusian/midi').then(
      (midi) => this.open(midi, wanted),
      (error: unknown) => this.end('midi-none', String(error)),
    );
  }

  write(message: Outgoing, ref: number): Written {
    const bytes = this.exchange.write(message, ref);
    if (!bytes.ok) return { ok: false, stuck: false, reason: bytes.error };
    if (!this.output) return { ok: false, stuck: false, reason: 'This MIDI port is an input only.' };
    try {
      this.output.send(Buffer.from(bytes.value));
      return { ok: true, bytes: bytes.value };
    } catch (error) {
      return { ok: false, stuck: false, reason: `The MIDI port refused the message: ${String(error)}` };
    }
  }

  forget(): void {}
  pause(): void {}
  resume(): void {}

  rest(): Uint8Array {
    return nothing;
  }

  close(): void {
    if (this.isEnded) return;
    this.isEnded = true;
    clearInterval(this.looking);
    this.input?.destroy();
    this.output?.destroy();
  }

  private open(midi: typeof Midi, wanted: string): void {
    if (this.isEnded) return;
    const namesOf = (port: { getPortNames: () => string[] }) =>
      port.getPortNames().filter((each) => isSameMidiPort(each, wanted));
    this.guarded(() => {
      const [from] = namesOf(midi.Input);
      const [to] = namesOf(midi.Output);
      if (from === undefined && to === undefined) return this.end('midi-missing');
      if (from !== undefined) {
        const input = new midi.Input();
        this.input = input;
        // Exclusive messages are wanted; the clock and active sensing are not.
        input.ignoreTypes(false, true, true);
        input.on('messageBuffer', (_, message) => this.heard(message));
        input.openPortByName(from);
      }
      if (to !== undefined) {
        this.output = new midi.Output();
        this.output.openPortByName(to);
      }
      const look = () => {
        if (namesOf(midi.Input).length + namesOf(midi.Output).length === 0) this.end('midi-missing');
      };
      this.looking = setInterval(() => this.guarded(look), lookMs);
      this.events.onOpen();
    });
  }

  /** The library throws where the system gives no access to MIDI, or takes it away. */
  private guarded(work: () => void): void {
    try {
      work();
    } catch (error) {
      this.end('midi-none', error instanceof Error ? error.message : String(error));
    }
  }

  private heard(message: Uint8Array): void {
    if (this.isEnded) return;
    const frames = this.exchange.read(message);
    if (frames.length > 0) this.events.onArrived(frames);
  }

  private end(cause: DownCause, detail?: string): void {
    if (this.isEnded) return;
    this.close();
    this.events.onEnd(cause, detail);
  }
}
