import { z } from 'zod';
import { decodeSacn, maxUniverse } from '../../core/wire';
import { readByHand, standinPage, UdpStandin, type Peer, type StandinOptions } from '../kit';
import { forgotten, lostAfterMs, noLights, received, type LightsState } from './model';
import { lightsBody, lightsCss, lightsScript } from './page';

interface LightsOptions extends StandinOptions {
  /** 0: whichever universe comes. */
  readonly universe: number;
}

const operation = z.strictObject({
  verb: z.literal('universe'),
  universe: z.number().int().min(1).max(maxUniverse),
});

/** What hangs there: a dimmer on one channel each, and coloured lights on three. */
const lamps: readonly { readonly name: string; readonly channel: number; readonly isColour?: true }[] = [
  { name: 'Key left', channel: 1 },
  { name: 'Key right', channel: 2 },
  { name: 'Fill', channel: 3 },
  { name: 'Back left', channel: 4 },
  { name: 'Back right', channel: 5 },
  { name: 'Desk', channel: 6 },
  { name: 'On-air light', channel: 7 },
  { name: 'Steps', channel: 8 },
  { name: 'Mast', channel: 9 },
  { name: 'Water wash', channel: 10, isColour: true },
];

/**
 * The lights of the pontoon behind a node that hears sACN (ANSI E1.31): nine dimmers and a coloured wash. It follows the source with the
 * highest priority and says nothing; when a source ends or is lost, the last levels stay.
 */
export class LightsStandin extends UdpStandin {
  readonly title = 'Lights';
  private universe: number;
  private heard: LightsState = noLights;
  private taken = 0;
  private refused = 0;
  private why = '';
  private timer: NodeJS.Timeout | undefined;

  constructor(options: LightsOptions) {
    super(options);
    this.universe = options.universe;
  }

  page = (): string =>
    standinPage({ tag: this.tag, title: this.title, css: lightsCss, body: lightsBody, script: lightsScript });

  protected own = () => {
    const { sources, followed, levels } = this.heard;
    const at = (channel: number) => levels[channel - 1] ?? 0;
    const source = followed === undefined ? undefined : sources.get(followed);
    return {
      universe: this.universe,
      levels: [...levels],
      source: source && { name: source.name, priority: source.priority },
      sources: sources.size,
      lamps: lamps.map(({ name, channel, isColour }) => {
        const values = isColour ? [at(channel), at(channel + 1), at(channel + 2)] : [at(channel)];
        const [first = 0] = values;
        return {
          name,
          colour: isColour ? values : [first, Math.round(first * 0.93), Math.round(first * 0.78)],
          says: values.join(' '),
        };
      }),
      taken: this.taken,
      refused: this.refused,
      why: this.why,
    };
  };

  protected byHand(body: unknown): string | undefined {
    return readByHand(operation, body, ({ universe }) => {
      this.universe = universe;
      this.heard = { ...noLights, levels: this.heard.levels };
      return void this.tell();
    });
  }

  protected onDatagram(_peer: Peer, bytes: Uint8Array): void {
    if (this.faults.hang) return;
    const packet = decodeSacn(bytes);
    if (!packet.ok) {
      this.refused += 1;
      this.why = packet.error.message;
      return this.tell();
    }
    if (this.universe !== 0 && packet.value.universe !== this.universe) return;
    this.taken += 1;
    this.change(received(this.heard, packet.value, performance.now()));
    this.timer ??= setInterval(() => this.change(forgotten(this.heard, performance.now())), lostAfterMs / 5);
  }

  protected override shut(): Promise<void> {
    clearInterval(this.timer);
    this.timer = undefined;
    this.heard = { ...noLights, levels: this.heard.levels };
    return super.shut();
  }

  private change(next: LightsState): void {
    const { levels, followed, sources } = this.heard;
    this.heard = next;
    const isSame = followed === next.followed && sources.size === next.sources.size;
    if (!isSame || !next.levels.every((level, n) => level === levels[n])) this.tell();
  }
}
