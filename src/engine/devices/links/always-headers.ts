import type { DriverDocument } from '../../../core/driver';
import type { LinkAddress } from './link';

/** What every request to a device carries, with holes for the sign-in. */
export const alwaysHeaders = ({
  headers,
  headerText,
}: Pick<DriverDocument['link'], 'headers' | 'headerText'>): readonly (readonly [string, string])[] => [
  ...Object.entries(headers),
  ...headersIn(headerText),
];

/** `X-Key: abc | Accept: text/plain` as pairs; what is no header is left out. */
const headersIn = (text: string): (readonly [string, string])[] =>
  text.split('|').flatMap((part) => {
    const found = /^\s*([A-Za-z][A-Za-z0-9-]*)\s*:\s*(.*?)\s*$/.exec(part);
    return found ? [[found[1] ?? '', found[2] ?? ''] as const] : [];
  });

/** These headers with the sign-in in its holes, by their names in small letters. */
export const filledHeaders = (
  always: readonly (readonly [string, string])[],
  { user, password }: Pick<LinkAddress, 'user' | 'password'>,
): Record<string, string> =>
  Object.fromEntries(
    always.map(([name, value]) => {
      const text = value.replaceAll('{user}', () => user).replaceAll('{password}', () => password);
      // A header takes bytes and no control characters (RFC 9110, 5.5); anything else would throw.
      const bytes = Buffer.from(text, 'utf8').toString('latin1');
      return [name.toLowerCase(), bytes.replace(/[^\t\x20-\x7e\x80-\xff]/g, ' ')];
    }),
  );
