import type { CheckItem, CheckResult, Proof } from '../../core/line-check';
import type { SentCommand } from '../presses/presses';

/** What the use of a command in the show says about it; `undefined` where it says nothing. */
export function seenInUse({
  outcome,
  reason,
  press,
  ms,
}: SentCommand): Pick<CheckResult, 'state' | 'text' | 'press' | 'ms'> | undefined {
  switch (outcome) {
    case 'confirmed':
      return { state: 'passed', text: 'It was used, and the device confirmed it.', press, ms };
    case 'late':
      return { state: 'doubtful', text: 'It was used, and the device did not report the change in time.', press, ms };
    case 'refused':
      return {
        state: 'doubtful',
        text: `It was used, and the device refused it: ${reason ?? 'no reason given.'}`,
        press,
        ms,
      };
    // The connection or the person was in its way, not the command; or nothing can come back.
    case 'lost':
    case 'skipped':
    case 'sent':
      return undefined;
  }
}

/** The proof of an item that comes about while the show runs: by nothing but a report, or because somebody uses it. */
export function provedByItself({ proofs }: CheckItem): Proof | undefined {
  const [first, ...more] = proofs;
  if (more.length === 0 && first?.by === 'reported') return first;
  return first?.by === 'gear' || first?.by === 'inlet' ? first : undefined;
}
