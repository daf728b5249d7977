import { documentFor, type DriverDocument } from '../../core/driver';
import type { DeskView } from '../../core/show';

/** The driver document as a device of the show uses it: with its options and the show's own commands. */
export function driverOfDevice(show: DeskView, device: string): DriverDocument | undefined {
  const record = show.records.find((each) => each.kind === 'device' && each.id === device);
  if (record?.kind !== 'device') return undefined;
  const document = show.drivers.find(({ id }) => id === record.data.driver);
  return document && documentFor(document, record.data);
}
