import { z } from 'zod';
import { toHex } from '../wire';

/** The most lines of an exchange, and the most bytes of a line. */
const mostLines = 8;
const mostBytes = 200;

const exchangeLineSchema = z.strictObject({
  dir: z.enum(['out', 'in']),
  /** Two digits a byte; secrets are masked. */
  hex: z.string().max(2 * mostBytes),
  /** Bytes that came or were sent with it and are left out. */
  more: z.number().int().min(1).optional(),
  /** The question or command that it is, or answers. */
  name: z.string().max(100).optional(),
  /** Milliseconds since the exchange began. */
  ms: z.number(),
});

/** The beginning of a conversation with a device, as bytes. */
export const exchangeSchema = z.array(exchangeLineSchema).max(mostLines);
export type ExchangeLine = z.infer<typeof exchangeLineSchema>;

/** Keeps how a conversation begins: the first lines, and of each the first bytes. */
export class ExchangeRecorder {
  private readonly kept: ExchangeLine[] = [];
  private beganAt: number | undefined;

  get lines(): readonly ExchangeLine[] {
    return this.kept;
  }

  /**
   * @param bytes with secrets masked
   * @param now in milliseconds, of any clock that only goes forward
   */
  take(dir: ExchangeLine['dir'], bytes: Uint8Array, now: number, name?: string): void {
    if (this.kept.length >= mostLines || bytes.length === 0) return;
    this.beganAt ??= now;
    const more = bytes.length - mostBytes;
    this.kept.push({
      dir,
      hex: toHex(bytes.subarray(0, mostBytes)),
      ...(more > 0 ? { more } : {}),
      ...(name === undefined ? {} : { name }),
      ms: now - this.beganAt,
    });
  }
}
