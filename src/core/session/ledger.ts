import { z } from 'zod';
import { scalarSchema } from '../driver';

/**
 * The ledger of what goes on until it is stopped. A stop is entered before the first byte of its start goes out, and is
 * struck out when the device has been told to stop. It is kept as lines, so that entering is one short append and a
 * ledger that was cut off in the middle of a line loses nothing but that line.
 */
export interface OwedStop {
  readonly id: string;
  readonly device: string;
  /** The command that stops it, with its parameters. */
  readonly command: string;
  readonly params: Readonly<Record<string, string | number | boolean>>;
  /** Not at once, but at this time (in milliseconds since 1970), for the control that caused it: also after a restart. */
  readonly due?: { readonly at: number; readonly owner: string };
}

const lineSchema = z.discriminatedUnion('op', [
  z.strictObject({
    op: z.literal('owe'),
    id: z.string().min(1).max(80),
    device: z.string().min(1).max(80),
    command: z.string().min(1).max(80),
    params: z.record(z.string(), scalarSchema),
    due: z.strictObject({ at: z.number(), owner: z.string().min(1).max(200) }).optional(),
  }),
  z.strictObject({ op: z.literal('paid'), id: z.string().min(1).max(80) }),
]);

export const oweLine = ({ id, device, command, params, due }: OwedStop): string =>
  `${JSON.stringify({ op: 'owe', id, device, command, params, due })}\n`;

export const paidLine = (id: string): string => `${JSON.stringify({ op: 'paid', id })}\n`;

/** The stops that are still owed, oldest first. Lines that make no sense are passed over. */
export function readLedger(text: string): OwedStop[] {
  const owed = new Map<string, OwedStop>();
  for (const line of text.split('\n')) {
    if (line === '') continue;
    const parsed = lineSchema.safeParse(parse(line));
    if (!parsed.success) continue;
    if (parsed.data.op === 'paid') owed.delete(parsed.data.id);
    else {
      const { id, device, command, params, due } = parsed.data;
      owed.set(id, { id, device, command, params, ...(due ? { due } : {}) });
    }
  }
  return [...owed.values()];
}

function parse(line: string): unknown {
  try {
    return JSON.parse(line);
  } catch {
    return undefined;
  }
}

/** True when two stops are the same thing to a device. */
export function isSameStop(a: Omit<OwedStop, 'id'>, b: Omit<OwedStop, 'id'>): boolean {
  if (a.device !== b.device || a.command !== b.command) return false;
  const keys = new Set([...Object.keys(a.params), ...Object.keys(b.params)]);
  return [...keys].every((key) => a.params[key] === b.params[key]);
}
