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

const nameNow = (): string => `wire ${new Date().toISOString().slice(0, 19).replace('T', ' ').replaceAll(':', '.')}`;

/** Saves rows as JSON, one a line. Secrets are masked already. */
export function saveWireLines(rows: readonly WireRow[], wordsOf: (row: WireRow) => RowWords): void {
  const lines = rows.map((row) => {
    const { at, dir, hex, note, name, press } = row;
    const { tag, text, meaning } = wordsOf(row);
    const bytes = dir === 'note' ? {} : { bytes: hex, text, meaning };
    return JSON.stringify({ at: new Date(at).toISOString(), device: tag, way: dir, ...bytes, note, name, press });
  });
  saveAsFile(`${nameNow()}.jsonl`, new Blob([`${lines.join('\n')}\n`], { type: 'application/x-ndjson' }));
}

/** Saves what went out and came in as a capture that network tools open. What it means stands beside each packet as its comment. */
export function saveWireCapture(rows: readonly WireRow[], show: DeskView, wordsOf: (row: WireRow) => RowWords): void {
  const devices = new Map<string, CapturedDevice>();
  for (const record of show.records) {
    if (record.kind !== 'device') continue;
    const document = documentOfRecord(show.drivers, record);
    const transport = document ? transportOf(document) : 'tcp';
    devices.set(record.id, { id: record.id, transport, host: record.data.host, port: record.data.port });
  }
  const messages = rows.flatMap((row) => {
    const device = devices.get(row.device);
    if (!device || row.dir === 'note') return [];
    const { tag, meaning } = wordsOf(row);
    const comment = [tag, meaning, row.note].filter(Boolean).join(' · ');
    return [{ at: row.at, toDevice: row.dir === 'out', hex: row.hex, comment, device }];
  });
  saveAsFile(`${nameNow()}.pcapng`, new Blob([writePcapng(messages)], { type: 'application/octet-stream' }));
}
