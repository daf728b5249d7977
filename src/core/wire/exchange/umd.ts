import { ok } from '../../result';
import { encodeUmdV3, encodeUmdV5, type UmdLamp } from '../umd';
import type { Exchange, Outgoing } from './exchange';
import { wrongKind } from './plain';

type Umd = Extract<Outgoing, { kind: 'umd' }>;

/** Version 3.1 has no colours: red lights the first lamp, green the second, amber both. */
const v3Tallies: Readonly<Record<UmdLamp, readonly [boolean, boolean, boolean, boolean]>> = {
  off: [false, false, false, false],
  red: [true, false, false, false],
  green: [false, true, false, false],
  amber: [true, true, false, false],
};

const encoders: Readonly<Record<'3.1' | '5.0', (message: Umd) => Uint8Array>> = {
  '3.1': ({ display, lamp, brightness, text }) => encodeUmdV3({ display, tallies: v3Tallies[lamp], brightness, text }),
  '5.0': ({ screen, display, lamp, brightness, text }) =>
    encodeUmdV5({ screen, displays: [{ display, left: lamp, label: lamp, right: lamp, brightness, text }] }),
};

/** UMD tally: a datagram a display, and nothing ever comes back. */
export function umdExchange(version: '3.1' | '5.0'): Exchange {
  return {
    write: (message) => (message.kind === 'umd' ? ok(encoders[version](message)) : wrongKind(message)),
    read: (chunk) => [{ raw: chunk.slice(), says: [], fault: 'A display of this kind says nothing.' }],
    rest: () => new Uint8Array(),
    forget: () => undefined,
  };
}
