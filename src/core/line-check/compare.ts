import type { CheckReport } from './report';
import type { Standing } from './standing';

type Item = CheckReport['items'][number];

/** An item that stands otherwise in a later report than in an earlier one; `null` where it is not in one of them. */
interface CheckChange {
  readonly item: Item;
  readonly before: Standing | null;
  readonly now: Standing | null;
}

const rank: readonly (Standing | null)[] = ['failed', 'doubtful', 'due', 'open', null, 'none', 'passed'];

/** What differs between two reports, what has become worse first. */
export function compareReports(earlier: CheckReport, later: CheckReport): readonly CheckChange[] {
  const before = new Map(earlier.items.map((item) => [item.id, item]));
  const now = new Map(later.items.map((item) => [item.id, item]));
  const changed = later.items.flatMap((item): CheckChange[] => {
    const was = before.get(item.id)?.standing ?? null;
    return was === item.standing ? [] : [{ item, before: was, now: item.standing }];
  });
  const gone = earlier.items.flatMap((item): CheckChange[] =>
    now.has(item.id) ? [] : [{ item, before: item.standing, now: null }],
  );
  return [...changed, ...gone].sort((a, b) => rank.indexOf(a.now) - rank.indexOf(b.now));
}
