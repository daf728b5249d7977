import { md5, sha1 } from '@noble/hashes/legacy.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { fillTemplate, type CompiledStep } from '../driver';
import { toHex } from '../wire';

type Rules = Extract<CompiledStep, { send: unknown }>['derive'];
const hashes = { md5, sha1, sha256 } as const;
const utf8 = new TextEncoder();

/** Digests over what the greeting said and the password, in small hexadecimal digits. Later rules may use earlier ones. */
export function derive(rules: Rules, texts: Readonly<Record<string, string>>): Record<string, string> {
  const made: Record<string, string> = {};
  for (const { name, hash, of } of rules) {
    const bytes = utf8.encode(fillTemplate(of, { ...texts, ...made }));
    made[name] = toHex(hashes[hash](bytes)).toLowerCase();
  }
  return made;
}
