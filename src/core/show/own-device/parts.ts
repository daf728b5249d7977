import type { DriverCommand, DriverParameter } from '../../driver';

/** What the parts of the program's own document are made with. */

export const param = (
  title: string,
  value: DriverParameter['value'],
  more: Partial<DriverParameter> = {},
): DriverParameter => ({ title, value, sends: 'index', optional: false, ...more });

/** @param says what it does as a sentence with its parameters in braces */
export const command = (title: string, says: string, more: Partial<DriverCommand>): DriverCommand => ({
  title,
  says,
  params: {},
  send: says,
  risky: false,
  harmless: false,
  class: 'ordinary',
  ...more,
});
