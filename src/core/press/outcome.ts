/** The state or outcome of a send, or of a press of several sends. */

export type PendingOutcome = 'taken' | 'waiting';
export type FinalOutcome = 'sent' | 'confirmed' | 'late' | 'refused' | 'lost' | 'skipped';
export type Outcome = PendingOutcome | FinalOutcome;

/** From best to worst. */
const order: readonly FinalOutcome[] = ['confirmed', 'sent', 'skipped', 'late', 'refused', 'lost'];

/** The outcome of a press of several commands: the worst of theirs. A press of none is `sent`. */
export function worstOutcome(outcomes: readonly FinalOutcome[]): FinalOutcome {
  let worst = -1;
  for (const outcome of outcomes) worst = Math.max(worst, order.indexOf(outcome));
  return order[worst] ?? 'sent';
}
