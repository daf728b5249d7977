import { z } from 'zod';
import { ByteFramer, checksums } from '../../core/wire';
import { readByHand, type Faults } from '../kit';

const rowCount = 6;
const textBytes = 8;
const frameBytes = 12;
const start = 0x02;

/** What a frame asks for, by its second byte. */
const ops = { text: 0x10, clear: 0x11, brightness: 0x12, show: 0x13, askRow: 0x20, askState: 0x21 } as const;
const rowReport = 0xc0;
const refused = 0xff;

const operation = z.discriminatedUnion('verb', [
  z.strictObject({
    verb: z.literal('text'),
    row: z.number().int().min(1).max(rowCount),
    text: z.string().max(textBytes),
  }),
  z.strictObject({ verb: z.literal('clear') }),
  z.strictObject({ verb: z.literal('show'), on: z.boolean() }),
]);

interface BoardHooks {
  readonly faults: () => Faults;
  readonly say: (bytes: Uint8Array) => void;
  readonly onChange: () => void;
}

/** A board of six rows of eight characters, spoken to in frames of twelve bytes with a checksum, whatever carries them. */
export class BoardUnit {
  private rows: string[] = Array.from({ length: rowCount }, () => '');
  private brightness = 5;
  private shown = true;
  private readonly framer = new ByteFramer(
    { kind: 'fixed', length: frameBytes, start: Uint8Array.of(start) },
    frameBytes,
  );

  constructor(private readonly hooks: BoardHooks) {}

  get state() {
    return { rows: this.rows, brightness: this.brightness, shown: this.shown };
  }

  byHand(body: unknown): string | undefined {
    return readByHand(operation, body, (order) => {
      if (order.verb === 'clear') return void this.clear(0);
      if (order.verb === 'show') {
        this.shown = order.on;
        return void this.hooks.onChange();
      }
      this.setRow(order.row, order.text.padEnd(textBytes));
      return undefined;
    });
  }

  onBytes(bytes: Uint8Array): void {
    for (const frame of this.framer.push(bytes)) if (frame.kind === 'frame') this.onFrame(frame.raw);
  }

  private onFrame(raw: Uint8Array): void {
    const check = checksums.xor8.of(raw.subarray(1, frameBytes - 1));
    if (check !== raw[frameBytes - 1]) return this.refuse(1, 'CHECKSUM');
    if (this.hooks.faults().taken) return this.refuse(5, 'HELD');
    const [, op = 0, row = 0] = raw;
    const text = String.fromCharCode(...raw.subarray(3, 3 + textBytes));
    const hasRow = row >= 1 && row <= rowCount;
    switch (op) {
      case ops.text:
        if (!hasRow) return this.refuse(2, 'NO ROW');
        this.say(op | 0x80, row, text);
        return this.setRow(row, text);
      case ops.clear:
        if (row > rowCount) return this.refuse(2, 'NO ROW');
        this.say(op | 0x80, row, '');
        return this.clear(row);
      case ops.brightness:
        if (row < 1 || row > 9) return this.refuse(3, 'RANGE');
        this.brightness = row;
        this.say(op | 0x80, row, '');
        return this.hooks.onChange();
      case ops.show:
        if (row > 1) return this.refuse(3, 'RANGE');
        this.shown = row === 1;
        this.say(op | 0x80, row, '');
        return this.hooks.onChange();
      case ops.askRow:
        return hasRow ? this.say(op | 0x80, row, this.rows[row - 1] ?? '') : this.refuse(2, 'NO ROW');
      case ops.askState: {
        const model = this.hooks.faults().otherModel ? 'B9' : 'B6';
        return this.say(op | 0x80, this.brightness, `${this.shown ? 1 : 0}${model}v3.2`);
      }
      default:
        return this.refuse(4, 'UNKNOWN');
    }
  }

  private setRow(row: number, text: string): void {
    this.rows = this.rows.map((each, n) => (n === row - 1 ? text.trimEnd() : each));
    this.say(rowReport, row, text);
    this.hooks.onChange();
  }

  private clear(row: number): void {
    for (let n = 1; n <= rowCount; n += 1) if (row === 0 || row === n) this.setRow(n, '');
  }

  private refuse(code: number, text: string): void {
    this.say(refused, code, text);
  }

  private say(op: number, row: number, text: string): void {
    const letters = Array.from(text.slice(0, textBytes).padEnd(textBytes), (c) => c.charCodeAt(0) & 0xff);
    const body = Uint8Array.from([op, row, ...letters]);
    this.hooks.say(Uint8Array.from([start, ...body, checksums.xor8.of(body)]));
  }
}
