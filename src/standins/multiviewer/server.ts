import { z } from 'zod';
import {
  decodeUmdV3,
  decodeUmdV5,
  v5Broadcast,
  type UmdLamp,
  type UmdV3Message,
  type UmdV5Display,
} from '../../core/wire';
import { readByHand, standinPage, UdpStandin, type Peer, type StandinOptions } from '../kit';
import { multiviewerBody, multiviewerCss, multiviewerScript } from './page';
import { multiviewPicture } from './picture';

const displayCount = 12;

const operation = z.discriminatedUnion('verb', [
  z.strictObject({ verb: z.literal('version'), version: z.enum(['3.1', '5.0']) }),
  z.strictObject({ verb: z.literal('blank') }),
]);

interface Tile {
  readonly number: number;
  readonly text: string;
  readonly left: UmdLamp;
  readonly right: UmdLamp;
  readonly brightness: number;
}

const blank = (number: number): Tile => ({ number, text: '', left: 'off', right: 'off', brightness: 3 });

/**
 * A multiviewer of twelve pictures, numbered from 1. It takes names and tally and says nothing: what it did not understand it only
 * counts. Which version it understands is set in its menu.
 */
export class MultiviewerStandin extends UdpStandin {
  readonly title = 'Multiviewer';
  private version: '3.1' | '5.0' = '5.0';
  private tiles = Array.from({ length: displayCount }, (_, n) => blank(n + 1));
  private taken = 0;
  private refused = 0;
  private why = '';

  constructor(options: StandinOptions) {
    super(options);
  }

  page = (): string =>
    standinPage({
      tag: this.tag,
      title: this.title,
      css: multiviewerCss,
      body: multiviewerBody,
      script: multiviewerScript,
    });

  still = (): string => multiviewPicture(this.tiles);

  protected own = () => ({
    version: this.version,
    displays: this.tiles,
    taken: this.taken,
    refused: this.refused,
    why: this.why,
  });

  protected byHand(body: unknown): string | undefined {
    return readByHand(operation, body, (order) => {
      if (order.verb === 'version') this.version = order.version;
      this.tiles = this.tiles.map(({ number }) => blank(number));
      this.tell();
      return undefined;
    });
  }

  protected onDatagram(_peer: Peer, bytes: Uint8Array): void {
    if (this.faults.hang) return;
    if (this.version === '3.1') {
      const message = decodeUmdV3(bytes);
      if (message.ok) this.put(message.value.display, tileOfV3(message.value));
      else this.reject(message.error.message);
    } else {
      const packet = decodeUmdV5(bytes);
      if (!packet.ok) return this.reject(packet.error.message);
      const { screen, displays } = packet.value;
      if (screen !== 0 && screen !== v5Broadcast) return this.reject(`There is no screen ${screen}.`);
      for (const each of displays) this.put(each.display, tileOfV5(each));
    }
  }

  private put(number: number, tile: Omit<Tile, 'number'>): void {
    const all = this.version === '5.0' && number === v5Broadcast;
    if (!all && !this.tiles.some((each) => each.number === number))
      return this.reject(`There is no display ${number}.`);
    this.taken += 1;
    this.tiles = this.tiles.map((each) => (all || each.number === number ? { ...tile, number: each.number } : each));
    this.tell();
  }

  private reject(why: string): void {
    this.refused += 1;
    this.why = why;
    this.tell();
  }
}

const tileOfV3 = ({ text, tallies, brightness }: UmdV3Message): Omit<Tile, 'number'> => ({
  text,
  left: tallies[0] ? 'red' : 'off',
  right: tallies[1] ? 'green' : 'off',
  brightness,
});

const tileOfV5 = ({ text, left, right, brightness }: UmdV5Display): Omit<Tile, 'number'> => ({
  text,
  left,
  right,
  brightness,
});
