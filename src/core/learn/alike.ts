import type { DriverDocument } from '../driver';
import { fixedBytes, frameTextOf, saidText } from './frame-text';

/**
 * True for frames that seem to be of one kind: lines that begin with the same word, or bytes that are the same up to the first one behind the
 * length.
 */
export function isAlike(document: DriverDocument, a: Uint8Array, b: Uint8Array): boolean {
  const as = frameTextOf(document.framing);
  if (as === undefined) return false;
  const [one, other] = [kindOf(document, a, as), kindOf(document, b, as)];
  return one !== undefined && one === other;
}

function kindOf(document: DriverDocument, frame: Uint8Array, as: 'text' | 'bytes'): string | undefined {
  const said = saidText(document, frame);
  if (said === undefined) return undefined;
  if (as === 'text') return /^[^\p{L}]*\p{L}+/u.exec(said)?.[0] ?? '';
  const { before } = fixedBytes(document.framing);
  return said.slice(before * 2, before * 2 + 2);
}
