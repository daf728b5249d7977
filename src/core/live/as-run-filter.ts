import { z } from 'zod';
import { devicesOfRow, isTrouble, kindOfRow, outcomeOf, whatOf, whoOfRow } from './as-run-text';
import type { AsRunRow } from './topics';

const word = z.string().max(120).optional();
const time = z.coerce.number().int().min(0).optional();

/** Which rows of the as-run are wanted; whatever is left out does not matter. */
export const asRunFilterSchema = z.object({
  kind: z.enum(['all', 'press', 'link', 'reading', 'other']).default('all'),
  /** By its tag. */
  device: word,
  who: word,
  outcome: word,
  /** The label of a control. */
  control: word,
  /** Occurs anywhere in the row. */
  text: word,
  trouble: z.stringbool().optional(),
  /** From and to, in milliseconds since 1970. */
  from: time,
  to: time,
});
export type AsRunFilter = z.infer<typeof asRunFilterSchema>;

export const everything: AsRunFilter = { kind: 'all' };

/** True for a row that is wanted. */
export function fitsFilter(row: AsRunRow, filter: AsRunFilter): boolean {
  const { kind, device, who, outcome, control, text, trouble, from, to } = filter;
  const has = (in_: string, part: string) => in_.toLowerCase().includes(part.toLowerCase());
  return (
    (kind === 'all' || kindOfRow(row) === kind) &&
    (!device || devicesOfRow(row).includes(device)) &&
    (!who || has(whoOfRow(row), who)) &&
    (!outcome || outcomeOf(row) === outcome) &&
    (!control || (row.kind === 'press' && has(row.label, control))) &&
    (!text || has(`${whatOf(row)} ${JSON.stringify(row)}`, text)) &&
    (!trouble || isTrouble(row)) &&
    (from === undefined || row.at >= from) &&
    (to === undefined || row.at <= to)
  );
}

/** The filter as the query of an address. */
export function filterQuery(filter: AsRunFilter): string {
  const given = Object.entries(filter).filter(([, value]) => value !== undefined && value !== '' && value !== false);
  return new URLSearchParams(given.map(([name, value]) => [name, String(value)])).toString();
}
