import { writePcapng, type CapturedDevice } from '../../core/capture';
import type { WireRow } from '../../core/live';
import type { DeskView } from '../../core/show';
import { documentOfRecord } from '../desk';
import { saveAsFile } from '../parts';
import { transportOf } from './transport';

/** What is said of a row beside its bytes. */
interface RowWords {
  readonly tag: string;
  readonly text: string;
  readonly meaning: string;
}

/** Rows of the wire, piece by piece. */
export type WirePieces = Iterable<readonly WireRow[]> | AsyncIterable<readonly WireRow[]>;

const nameNow = (): string => `wire ${new Date().toISOString().slice(0, 19).replace('T', ' ').replaceAll(':', '.')}`;

/** All rows that the engine keeps, oldest first. What comes while they are fetched is left out. Fails with an Error. */
export async function* keptWirePieces(signal: AbortSignal): AsyncGenerator<readonly WireRow[]> {
  let after = 0;
  for (let end = Infinity; after < end;) {
    const response = await fetch(`/api/wire?after=${after}`, { signal });
    if (!response.ok) throw new Error('The wire could not be fetched from the engine.');
    const { rows, last } = (await response.json()) as { rows: readonly WireRow[]; last: number };
    if (end === Infinity) end = last;
    if (rows.length === 0) return;
    after = rows.at(-1)?.n ?? end;
    yield rows;
  }
}

/** Saves rows as JSON, one a line. Secrets are masked already. Returns how many. */
export async function saveWireLines(pieces: WirePieces, wordsOf: (row: WireRow) => RowWords): Promise<number> {
  const parts: string[] = [];
  let count = 0;
  for await (const rows of pieces) {
    count += rows.length;
    const lines = rows.map((row) => {
      const { at, dir, hex, note, name, press } = row;
      const { tag, text, meaning } = wordsOf(row);
      const bytes = dir === 'note' ? {} : { bytes: hex, text, meaning };
      return JSON.stringify({ at: new Date(at).toISOString(), device: tag, way: dir, ...bytes, note, name, press });
    });
    parts.push(`${lines.join('\n')}\n`);
  }
  saveAsFile(`${nameNow()}.jsonl`, new Blob(parts, { type: 'application/x-ndjson' }));
  return count;
}

/**
 * Saves what went out and came in as a capture that network tools open. What it means stands beside each packet as its comment. Returns how many rows
 * were looked at.
 */
export async function saveWireCapture(
  pieces: WirePieces,
  show: DeskView,
  wordsOf: (row: WireRow) => RowWords,
): Promise<number> {
  const devices = new Map<string, CapturedDevice>();
  for (const record of show.records) {
    if (record.kind !== 'device') continue;
    const document = documentOfRecord(show.drivers, record);
    const transport = document ? transportOf(document) : 'tcp';
    devices.set(record.id, { id: record.id, transport, host: record.data.host, port: record.data.port });
  }
  const messages: Parameters<typeof writePcapng>[0][number][] = [];
  let count = 0;
  for await (const rows of pieces) {
    count += rows.length;
    for (const row of rows) {
      const device = devices.get(row.device);
      if (!device || row.dir === 'note') continue;
      const { tag, meaning } = wordsOf(row);
      const comment = [tag, meaning, row.note].filter(Boolean).join(' · ');
      messages.push({ at: row.at, toDevice: row.dir === 'out', hex: row.hex, comment, device });
    }
  }
  saveAsFile(`${nameNow()}.pcapng`, new Blob([writePcapng(messages)], { type: 'application/octet-stream' }));
  return count;
}
