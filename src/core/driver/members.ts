import type { DriverReading } from './schema';

type Index = NonNullable<DriverReading['index']>;

/** The numbers of a family's members. @param options the device's, where one of them says how many there are */
export function indexesOf(
  { from, to }: Pick<Index, 'from' | 'to'>,
  options: Readonly<Record<string, string | number | boolean>> = {},
): number[] {
  const last = typeof to === 'number' ? to : Number(options[to.option]);
  return Number.isInteger(last) ? Array.from({ length: Math.max(0, last - from + 1) }, (_, n) => from + n) : [];
}

/** A member as the device writes it: its name, or its number. */
export const memberText = ({ from, names }: Index, index: number): string => names?.[index - from] ?? String(index);

/** Returns the number of the member with this name, or `undefined` for an unknown name. */
export function memberNamed({ from, names }: Index, text: string): number | undefined {
  const at = names?.indexOf(text) ?? -1;
  return at === -1 ? undefined : from + at;
}
