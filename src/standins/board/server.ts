import { z } from 'zod';
import { ByteFramer, checksums } from '../../core/wire';
import { isLost, Outlet, readByHand, Standin, standinPage, type StandinOptions } from '../kit';
import type { SerialLine } from '../gateway/serial-line';
import { boardBody, boardCss, boardScript } from './page';

interface BoardOptions extends StandinOptions {
  readonly line: SerialLine;
}

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

/**
 * The old results board: six rows of eight characters on a serial line, spoken to in frames of twelve bytes with a
 * checksum. It has no address of its own; it is reached through the gateway's serial port.
 */
export class BoardStandin extends Standin {
  readonly title = 'Results board';
  private rows: string[] = Array.from({ length: rowCount }, () => '');
  private brightness = 5;
  private shown = true;
  private readonly framer = new ByteFramer(
    { kind: 'fixed', length: frameBytes, start: Uint8Array.of(start) },
    frameBytes,
  );
  private readonly outlet: Outlet;

  constructor(private readonly board: BoardOptions) {
    super(board);
    this.outlet = new Outlet(
      () => this.faults,
      (bytes) => this.board.line.fromDevice(bytes),
    );
  }

  page = (): string =>
    standinPage({ tag: this.tag, title: this.title, css: boardCss, body: boardBody, script: boardScript });
  protected own = () => ({ rows: this.rows, brightness: this.brightness, shown: this.shown });

  protected byHand(body: unknown): string | undefined {
    return readByHand(operation, body, (order) => {
      if (order.verb === 'clear') return void this.clear(0);
      if (order.verb === 'show') {
        this.shown = order.on;
        return void this.tell();
      }
      this.setRow(order.row, order.text.padEnd(textBytes));
      return undefined;
    });
  }

  protected get controllers(): number {
    return this.board.line.listening;
  }

  drop(): void {}

  sendRaw(bytes: Uint8Array): void {
    this.board.line.fromDevice(bytes);
  }

  protected open(_host: string, port: number): Promise<number> {
    this.board.line.plug((bytes) => this.onBytes(bytes));
    return Promise.resolve(port);
  }

  protected shut(): Promise<void> {
    this.board.line.plug(undefined);
    return Promise.resolve();
  }

  private onBytes(bytes: Uint8Array): void {
    if (isLost(this.faults.lossPercent)) return;
    for (const frame of this.framer.push(bytes)) if (frame.kind === 'frame') this.onFrame(frame.raw);
  }

  private onFrame(raw: Uint8Array): void {
    const check = checksums.xor8.of(raw.subarray(1, frameBytes - 1));
    if (check !== raw[frameBytes - 1]) return this.refuse(1, 'CHECKSUM');
    if (this.faults.taken) return this.refuse(5, 'HELD');
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
        return this.tell();
      case ops.show:
        if (row > 1) return this.refuse(3, 'RANGE');
        this.shown = row === 1;
        this.say(op | 0x80, row, '');
        return this.tell();
      case ops.askRow:
        return hasRow ? this.say(op | 0x80, row, this.rows[row - 1] ?? '') : this.refuse(2, 'NO ROW');
      case ops.askState: {
        const model = this.faults.otherModel ? 'B9' : 'B6';
        return this.say(op | 0x80, this.brightness, `${this.shown ? 1 : 0}${model}v3.2`);
      }
      default:
        return this.refuse(4, 'UNKNOWN');
    }
  }

  private setRow(row: number, text: string): void {
    this.rows = this.rows.map((each, n) => (n === row - 1 ? text.trimEnd() : each));
    this.say(rowReport, row, text);
    this.tell();
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
    this.outlet.send(Uint8Array.from([start, ...body, checksums.xor8.of(body)]));
  }
}
