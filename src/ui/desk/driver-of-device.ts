import { compileParsed, documentFor, type CompiledDriver, type DriverDocument } from '../../core/driver';
import { sourcesOf, withEngineReadings, type DeskView, type DeviceRecord, type ShowRecord } from '../../core/show';

/** What was made for a device record from its document; both never change, so that it stays good for them. */
const made = new WeakMap<DeviceRecord, { readonly from: DriverDocument; readonly document: DriverDocument }>();

const tied = new WeakMap<readonly ShowRecord[], ReadonlySet<string>>();

/** The driver document as a device of the show uses it: with its options, the show's own commands, and its tally. */
export function driverOfDevice({ records, drivers }: DeskView, device: string): DriverDocument | undefined {
  const record = records.find((each) => each.kind === 'device' && each.id === device);
  const document = record?.kind === 'device' ? documentOfRecord(drivers, record) : undefined;
  if (!document) return undefined;
  const sources = tied.get(records) ?? sourcesOf(records);
  tied.set(records, sources);
  return withEngineReadings(document, sources.has(device));
}

/** The same without its tally, for a device whose record is at hand. */
export function documentOfRecord(drivers: readonly DriverDocument[], record: DeviceRecord): DriverDocument | undefined {
  const from = drivers.find(({ id }) => id === record.data.driver);
  if (!from) return undefined;
  const known = made.get(record);
  if (known?.from === from) return known.document;
  const document = documentFor(from, record.data);
  made.set(record, { from, document });
  return document;
}

const compiled = new WeakMap<DriverDocument, { readonly driver: CompiledDriver | undefined }>();

/** A document of the show, compiled once for all that use it; `undefined` where it has mistakes. */
export function compiledOf(document: DriverDocument): CompiledDriver | undefined {
  let known = compiled.get(document);
  if (!known) {
    const result = compileParsed(document);
    compiled.set(document, (known = { driver: result.ok ? result.value : undefined }));
  }
  return known.driver;
}
