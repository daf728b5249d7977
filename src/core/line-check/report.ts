import Papa from 'papaparse';
import { z } from 'zod';
import { drillResultSchema, type DrillResult } from '../drill';
import { checkItemSchema, checkResultSchema, type CheckItem } from './item';
import { figuresOf, standingOf, tellingResult, type ItemResults, type Standing } from './standing';

export const checkReportSchema = z.strictObject({
  format: z.literal(1),
  show: z.string(),
  /** The revision in service, or `null` while the show is set up. */
  revision: z.number().nullable(),
  /** In milliseconds since 1970. */
  at: z.number(),
  /** Who stands for it, and when they signed. */
  signed: z.strictObject({ who: z.string(), note: z.string(), at: z.number() }).optional(),
  total: z.number(),
  count: z.record(z.enum(['passed', 'doubtful', 'failed', 'due', 'open', 'none']), z.number()),
  /** Fault drills that were run, the newest first. */
  drills: z.array(drillResultSchema.omit({ id: true })).optional(),
  items: z.array(
    checkItemSchema.omit({ fingerprint: true, proofs: true }).extend({
      /** Tags. */
      devices: z.array(z.string()),
      /** Names. */
      pages: z.array(z.string()),
      standing: z.enum(['passed', 'doubtful', 'failed', 'due', 'open', 'none']),
      results: z.array(checkResultSchema.omit({ item: true, fingerprint: true })),
    }),
  ),
});
export type CheckReport = z.infer<typeof checkReportSchema>;

interface ReportSources {
  readonly show: string;
  readonly revision: number | null;
  readonly at: number;
  readonly items: readonly CheckItem[];
  readonly resultsOf: (item: string) => ItemResults;
  readonly drills: readonly DrillResult[];
  readonly firmwareOf: (device: string) => string | undefined;
  readonly tagOf: (device: string) => string;
  readonly pageOf: (page: string) => string;
  /** A time in milliseconds since 1970, as the table writes it. */
  readonly timeOf: (at: number) => string;
}

/** The line check as a document. There are no addresses, names of people other than those who answered, or secrets in it. */
export function reportOf({
  items,
  resultsOf,
  firmwareOf,
  tagOf,
  pageOf,
  show,
  revision,
  at,
  drills,
}: ReportSources): CheckReport {
  const rows = items.map(({ fingerprint: _, proofs: __, ...item }, n) => {
    const full = items[n] as CheckItem;
    const results = resultsOf(item.id);
    const standing = standingOf(full, results, firmwareOf(item.devices[0] ?? ''));
    return {
      ...item,
      devices: item.devices.map(tagOf),
      pages: item.pages.map(pageOf),
      standing,
      results: Object.values(results).map(({ item: _item, fingerprint: _print, ...result }) => result),
    };
  });
  const { count, total } = figuresOf(rows.map(({ standing }): Standing => standing));
  const run = drills.map(({ id: _, ...drill }) => drill);
  return { format: 1, show, revision, at, total, count, ...(run.length > 0 ? { drills: run } : {}), items: rows };
}

/** The report as a table with a heading: one line for each item, with the result that tells the most. */
export function reportCsv(sources: ReportSources): string {
  const { items, resultsOf, firmwareOf, tagOf, pageOf, timeOf } = sources;
  const rows = items.map((item) => {
    const firmware = firmwareOf(item.devices[0] ?? '');
    const result = tellingResult(item, resultsOf(item.id), firmware);
    return {
      device: item.devices.map(tagOf).join(' '),
      kind: item.kind,
      item: item.title,
      pages: item.pages.map(pageOf).join(', '),
      result: standingOf(item, resultsOf(item.id), firmware),
      proof: result?.by ?? '',
      seen: result?.text ?? item.why ?? '',
      who: result?.who ?? '',
      at: result ? timeOf(result.at) : '',
      ms: result?.ms === undefined ? '' : Math.round(result.ms),
    };
  });
  return Papa.unparse(rows, { newline: '\r\n', escapeFormulae: true });
}
