import { compileParsed, documentFor, type CompiledDriver, type DriverDocument } from '../../core/driver';
import type { DeskView, DeviceRecord } from '../../core/show';

/** What was made for a device record from its document; both never change, so that it stays good for them. */
const made = new WeakMap<DeviceRecord, { readonly from: DriverDocument; readonly document: DriverDocument }>();

/** The driver document as a device of the show uses it: with its options and the show's own commands. */
export function driverOfDevice(show: DeskView, device: string): DriverDocument | undefined {
  const record = show.records.find((each) => each.kind === 'device' && each.id === device);
  return record?.kind === 'device' ? documentOfRecord(show.drivers, record) : undefined;
}

/** The same for a device whose record is at hand. */
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
