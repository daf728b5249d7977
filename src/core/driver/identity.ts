import type { Scalar } from '../result';
import type { DriverDocument } from './schema';

/** The readings by which a device says what it is. */
export const identityReadings = ({ identity }: DriverDocument): string[] =>
  [identity.model, identity.firmware, identity.serial].filter((key) => key !== undefined);

/**
 * A sentence when the device says that it is another model, or has a firmware, that this driver does not know;
 * `undefined` when all is as expected or not known yet.
 */
export function identityRemark(
  { identity }: DriverDocument,
  readingNow: (key: string) => Scalar | undefined,
): string | undefined {
  const model = identity.model === undefined ? undefined : readingNow(identity.model);
  if (model !== undefined && identity.models && !identity.models.includes(String(model))) {
    return `It says that it is “${String(model)}”; this driver is for ${identity.models.join(', ')}.`;
  }
  const firmware = identity.firmware === undefined ? undefined : readingNow(identity.firmware);
  if (firmware !== undefined && identity.firmwares && !identity.firmwares.some((known) => isVersion(known, firmware))) {
    return `Its firmware is ${String(firmware)}; this driver was tried with ${identity.firmwares.join(', ')}.`;
  }
  return undefined;
}

/** `1.4` is itself; `1.x` is every version that begins with `1.`. */
function isVersion(known: string, firmware: Scalar): boolean {
  if (!known.endsWith('.x')) return known === String(firmware);
  return String(firmware).startsWith(known.slice(0, -1));
}

/** What a device says of itself, as far as it is known. */
export function whatItSays(
  { identity }: DriverDocument,
  readingNow: (key: string) => Scalar | undefined,
): { readonly model?: string; readonly firmware?: string; readonly serial?: string } {
  const said = Object.entries({ model: identity.model, firmware: identity.firmware, serial: identity.serial });
  return Object.fromEntries(
    said.flatMap(([name, key]) => {
      const value = key === undefined ? undefined : readingNow(key);
      return value === undefined ? [] : [[name, String(value)]];
    }),
  );
}
