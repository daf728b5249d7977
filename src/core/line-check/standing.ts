import type { CheckItem, CheckResult, ProofBy } from './item';

/**
 * Where an item stands.
 *
 * - `passed`: proved, and nothing that the result depends on has changed since
 * - `doubtful`: something about it needs a look
 * - `failed`: it does not work
 * - `due`: proved once, but something that the result depends on has changed since
 * - `open`: it can be proved, and has not been yet
 * - `none`: it cannot be proved; the item says why
 */
export type Standing = 'passed' | 'doubtful' | 'failed' | 'due' | 'open' | 'none';
export const standings: readonly Standing[] = ['failed', 'doubtful', 'due', 'open', 'none', 'passed'];

/** The newest result of each proof of an item. */
export type ItemResults = Readonly<Partial<Record<ProofBy, CheckResult>>>;

/** True when a result is about the item as it is now. `firmware`: what its device says that it runs, if that is known. */
export const isCurrent = (item: CheckItem, result: CheckResult, firmware?: string): boolean =>
  result.fingerprint === item.fingerprint &&
  (firmware === undefined || result.firmware === undefined || result.firmware === firmware);

/** Where an item stands by its results. What has failed at the device is not made good by a rehearsal, nor the reverse. */
export function standingOf(item: CheckItem, results: ItemResults, firmware?: string): Standing {
  if (item.fault !== undefined) return 'failed';
  if (item.proofs.length === 0) return 'none';
  const offered = new Set(item.proofs.map(({ by }) => by));
  const all = Object.values(results).filter(({ by }) => offered.has(by));
  if (all.some(({ left }) => left !== undefined && left.length > 0)) return 'failed';
  const current = counting(all.filter((result) => isCurrent(item, result, firmware)));
  for (const state of ['failed', 'doubtful', 'passed'] as const)
    if (current.some((result) => result.state === state)) return state;
  return all.some(({ state }) => state !== 'unproved') ? 'due' : 'open';
}

const atTheDevice: readonly ProofBy[] = ['put-back', 'query', 'person'];

/** A use that went wrong counts until the same has been proved at the device: nobody uses a command again just for that. */
function counting<Result extends Pick<CheckResult, 'by' | 'state' | 'at'>>(
  results: readonly Result[],
): readonly Result[] {
  const proved = results.filter(({ by, state }) => state === 'passed' && atTheDevice.includes(by)).map(({ at }) => at);
  return results.filter(({ by, state, at }) => by !== 'use' || state === 'passed' || proved.every((each) => each < at));
}

/** How many items stand where, and the share that is proved: passed, of all that can be proved; from 0 to 1. */
export interface Figures {
  readonly count: Readonly<Record<Standing, number>>;
  readonly total: number;
  readonly share: number;
}

export function figuresOf(standing: Iterable<Standing>): Figures {
  const count: Record<Standing, number> = { passed: 0, doubtful: 0, failed: 0, due: 0, open: 0, none: 0 };
  let total = 0;
  for (const each of standing) {
    count[each] += 1;
    total += 1;
  }
  const provable = total - count.none;
  return { count, total, share: provable === 0 ? 1 : count.passed / provable };
}

const states: readonly CheckResult['state'][] = ['failed', 'doubtful', 'passed', 'unproved'];

/** The result to show for an item: the worst of those that are current, and of equal ones the strongest proof. */
export function tellingOf<Result extends Pick<CheckResult, 'by' | 'state' | 'at'>>(
  { proofs }: { readonly proofs: readonly { readonly by: ProofBy }[] },
  results: readonly Result[],
  isNow: (result: Result) => boolean,
): Result | undefined {
  const all = proofs.flatMap((proof) => results.filter(({ by }) => by === proof.by));
  const current = counting(all.filter(isNow));
  const from = current.length > 0 ? current : all;
  return from.toSorted((a, b) => states.indexOf(a.state) - states.indexOf(b.state))[0];
}

export const tellingResult = (item: CheckItem, results: ItemResults, firmware?: string): CheckResult | undefined =>
  tellingOf(item, Object.values(results), (result) => isCurrent(item, result, firmware));
