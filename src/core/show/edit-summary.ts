import { placeText } from '../net';
import { canonicalJson } from './canonical';
import type { Edit } from './edit';
import { nameOfRecord } from './record-name';
import type { DeviceRecord, RecordKind } from './records';

/** What an edit does to the records of one kind, by their names. */
export interface KindSummary {
  readonly kind: RecordKind;
  readonly added: readonly string[];
  readonly changed: readonly string[];
  readonly gone: readonly string[];
}

/** A device that is reached elsewhere than before. */
export interface AddressChange {
  readonly tag: string;
  readonly from: string;
  readonly to: string;
}

/** What an edit does, for people who have to agree to it before. */
export interface EditSummary {
  readonly kinds: readonly KindSummary[];
  readonly addresses: readonly AddressChange[];
}

const order: readonly RecordKind[] = [
  'show',
  'device',
  'page',
  'control',
  'macro',
  'snapshot',
  'preset',
  'binding',
  'watch',
  'variable',
  'inlet',
  'panel',
  'tie',
];

/** Sums up an edit. A record that is written once more as it is counts as unchanged. */
export function summaryOf(edit: Edit): EditSummary {
  const kinds = new Map(
    order.map((kind) => [kind, { added: [] as string[], changed: [] as string[], gone: [] as string[] }]),
  );
  const addresses: AddressChange[] = [];
  for (const change of edit.changes) {
    if (change.op === 'add') kinds.get(change.record.kind)?.added.push(nameOfRecord(change.record));
    else if (change.op === 'remove') kinds.get(change.record.kind)?.gone.push(nameOfRecord(change.record));
    else {
      const { from, to } = change;
      if (canonicalJson(from.data) === canonicalJson(to.data)) continue;
      kinds.get(to.kind)?.changed.push(nameOfRecord(to));
      if (from.kind !== 'device' || to.kind !== 'device' || addressOf(from) === addressOf(to)) continue;
      addresses.push({ tag: to.data.tag, from: addressOf(from), to: addressOf(to) });
    }
  }
  return {
    kinds: [...kinds].flatMap(([kind, { added, changed, gone }]) =>
      added.length + changed.length + gone.length > 0 ? [{ kind, added, changed, gone }] : [],
    ),
    addresses,
  };
}

const addressOf = ({ data: { host, port } }: DeviceRecord): string => (host === '' ? 'none' : placeText(host, port));
