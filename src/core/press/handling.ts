import { needsHolding, sendsOfControl, type ControlRecord } from '../show';
import type { Guard } from './endings';

interface CommandName {
  readonly device: string;
  readonly command: string;
  /** Those of a control may be its values. */
  readonly params?: Readonly<Record<string, unknown>>;
}

/** What has to be known of the show to say how a control is handled. */
interface HandlingLookup {
  /** Returns true for a command that can spoil a show. */
  readonly isRisky: (send: CommandName) => boolean;
  /** Every command that a macro can send, with those of the macros that it begins. */
  readonly sendsOfMacro: (macro: string) => readonly CommandName[];
}

/** How a control is pressed. Screens, hand gear, the API, the editor and the engine go by this alone. */
interface Handling {
  /** It does something when it is pressed. */
  readonly pressable: boolean;
  /** A tap of it sends a command or begins a macro. */
  readonly sends: boolean;
  /** How a press of it has to be confirmed before anything is sent; absent where it need not be. */
  readonly guard?: Guard;
  /** It has to be told of the release. */
  readonly holds: boolean;
  /** It asks something before it is carried out. */
  readonly asks: boolean;
}

/**
 * How a control is handled, with its shift level and picks applied. One risky command guards the whole control, whichever gesture sends it
 * and whichever macro: half of a press would be worse than none.
 */
export function handlingOf(data: ControlRecord['data'], { isRisky, sendsOfMacro }: HandlingLookup): Handling {
  const { responses, drive, list, presets, sets } = data;
  const own = sendsOfControl(data);
  const isGuarded =
    responses.guard !== undefined ||
    own.some(isRisky) ||
    (responses.runs !== undefined && sendsOfMacro(responses.runs.macro).some(isRisky));
  return {
    pressable: own.length > 0 || [drive, list, presets, sets, responses.runs].some((each) => each !== undefined),
    sends: responses.tap.length > 0 || responses.runs !== undefined,
    holds: needsHolding(data),
    asks: responses.asks !== undefined,
    ...(isGuarded ? { guard: responses.guard ?? 'hold' } : {}),
  };
}
