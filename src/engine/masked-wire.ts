import { basicHeader, maskSecrets } from '../core/wire';

export type MaskedWire = (
  dir: 'out' | 'in',
  bytes: Uint8Array,
  note?: string,
  /** What else is secret in these bytes: digests, in a greeting. */
  more?: readonly Uint8Array[],
) => void;

const utf8 = new TextEncoder();
/** Shorter than any digest. */
const shortestDigest = 16;

/** The wire as people may see it: of a password, and of what was made of it, only the length is kept. */
export function maskedWire(
  show: (dir: 'out' | 'in', bytes: Uint8Array, note?: string) => void,
  user: string,
  password: string,
): MaskedWire {
  if (!password) return (dir, bytes, note) => show(dir, bytes, note);
  const secrets = [utf8.encode(password), utf8.encode(basicHeader(user, password).slice('Basic '.length))];
  return (dir, bytes, note, more = []) => {
    // In a greeting even a short secret is one.
    const greeting = note === 'greeting';
    const all = greeting ? [...secrets, ...more.filter((each) => each.length >= shortestDigest)] : secrets;
    show(dir, maskSecrets(bytes, all, greeting), note);
  };
}
