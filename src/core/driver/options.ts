import type { Scalar } from '../result';
import type { DriverAdditions, DriverCommand, DriverDocument } from './schema';

/** What a device has set of its driver's options; what is not set is the default. */
export type OptionValues = Readonly<Record<string, Scalar>>;

/** What a device adds to or chooses of its driver. */
export interface DocumentUse {
  readonly options?: OptionValues;
  readonly additions?: DriverAdditions;
}

/**
 * The document as it is for a device: bounds that are options are numbers, what the options rule out is gone, and the
 * show's own commands and readings are in it.
 */
export function documentFor(document: DriverDocument, { options: given = {}, additions }: DocumentUse): DriverDocument {
  const options: Record<string, Scalar> = {};
  for (const [name, option] of Object.entries(document.options)) options[name] = given[name] ?? option.default;
  const offered = (only: Readonly<Record<string, readonly Scalar[]>> | undefined) =>
    Object.entries(only ?? {}).every(([name, values]) => values.includes(options[name] ?? ''));
  const keep = <T extends { only?: Readonly<Record<string, readonly Scalar[]>> }>(
    record: Readonly<Record<string, T>>,
  ) => Object.fromEntries(Object.entries(record).filter(([, each]) => offered(each.only)));
  const commands = Object.fromEntries(
    Object.entries(keep(document.commands)).map(([id, command]) => [
      id,
      { ...command, params: resolveBounds(command.params, options) as DriverCommand['params'] },
    ]),
  );
  const readings = resolveBounds(keep(document.readings), options) as DriverDocument['readings'];
  if (!additions) return { ...document, commands, readings };
  return {
    ...document,
    commands: { ...commands, ...additions.commands },
    readings: { ...readings, ...additions.readings },
    replies: [...additions.replies, ...document.replies],
  };
}

/** Every `{"option": name}` replaced by the option's value. */
function resolveBounds(value: unknown, options: Readonly<Record<string, Scalar>>): unknown {
  if (Array.isArray(value)) return value.map((each) => resolveBounds(each, options));
  if (typeof value !== 'object' || value === null) return value;
  const keys = Object.keys(value);
  const named = (value as { option?: unknown }).option;
  if (keys.length === 1 && typeof named === 'string') return Number(options[named] ?? 0);
  return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, resolveBounds(each, options)]));
}
