import { optionProblems, type DriverDocument } from '../../core/driver';
import type { DeviceForm } from '../../core/show';

type Options = DeviceForm['options'];

/** What was found last for a driver: a form asks again with every key that is typed elsewhere in it. */
const known = new WeakMap<DriverDocument, { readonly key: string; readonly found: Readonly<Record<string, string>> }>();

/** What is wrong with the options of a device, by option. */
export function optionFaults(driver: DriverDocument, options: Options): Readonly<Record<string, string>> {
  const key = JSON.stringify(options);
  const last = known.get(driver);
  if (last?.key === key) return last.found;
  const found = optionProblems(driver, options);
  known.set(driver, { key, found });
  return found;
}
