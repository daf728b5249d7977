import type { DriverCommand, DriverParameter } from './schema';

/** The parameters that a person gives a command: all but those that are computed from others or from readings. */
export const askedParams = (
  command: Pick<DriverCommand, 'params'> | undefined,
): readonly (readonly [name: string, param: DriverParameter])[] =>
  Object.entries(command?.params ?? {}).filter(([, { computed }]) => computed === undefined);
