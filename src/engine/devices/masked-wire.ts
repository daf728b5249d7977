import { basicHeader, maskSecrets } from '../../core/wire';
import type { WireAbout } from './session-types';

export type MaskedWire = (
  dir: 'out' | 'in',
  bytes: Uint8Array,
  note?: string,
  /** What else is secret in these bytes: digests, in a greeting. */
  more?: readonly Uint8Array[],
  about?: WireAbout,
) => Uint8Array;

const utf8 = new TextEncoder();
/** Shorter than any digest. */
const shortestDigest = 16;

/** The wire as people may see it: of a password, and of what was made of it, only the length is kept. Returns what is shown. */
export function maskedWire(
  show: (dir: 'out' | 'in', bytes: Uint8Array, note?: string, about?: WireAbout) => void,
  user: string,
  password: string,
): MaskedWire {
  if (!password)
    return (dir, bytes, note, _more, about) => {
      show(dir, bytes, note, about);
      return bytes;
    };
  // In JSON some characters are escaped.
  const inJson = JSON.stringify(password).slice(1, -1);
  const writings = new Set([inJson, password, basicHeader(user, password).slice('Basic '.length)]);
  const secrets = Array.from(writings, (each) => utf8.encode(each));
  return (dir, bytes, note, more = [], about) => {
    // In a greeting even a short secret is one.
    const greeting = note === 'greeting';
    const all = greeting ? [...secrets, ...more.filter((each) => each.length >= shortestDigest)] : secrets;
    const shown = maskSecrets(bytes, all, greeting);
    show(dir, shown, note, about);
    return shown;
  };
}
