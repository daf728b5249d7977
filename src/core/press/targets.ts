import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { originalOf } from './settled';
import { resolveParams, type ControlRecord, type SendSpec } from '../show';

/**
 * Names what some sends of a control are about now: the devices, commands and values. The same control pressed for another pick,
 * level or answer is about another target; what its values are looked up from is not part of it. 16 hexadecimal digits.
 */
export function targetOf({ values }: Pick<ControlRecord['data'], 'values'>, sends: readonly SendSpec[]): string {
  const resolved = sends
    .map(originalOf)
    .map(({ device, command, params }) => [
      device,
      command,
      Object.entries(resolveParams(params, values)).sort(([a], [b]) => (a < b ? -1 : 1)),
    ]);
  return bytesToHex(sha256(utf8ToBytes(JSON.stringify(resolved)))).slice(0, 16);
}
