import type { DriverReading } from './schema';

/** The numbers of a family's members. @param options the device's, where one of them says how many there are */
export function indexesOf(
  { from, to }: NonNullable<DriverReading['index']>,
  options: Readonly<Record<string, string | number | boolean>> = {},
): number[] {
  const last = typeof to === 'number' ? to : Number(options[to.option]);
  return Number.isInteger(last) ? Array.from({ length: Math.max(0, last - from + 1) }, (_, n) => from + n) : [];
}
