import type { StatusView } from '../live';
import { readingsOfCondition, type PageRecord, type ReadingRef } from '../show';

/** The readings that decide whether a page is called. */
export const readingsOfCall = ({ calledBy }: Pick<PageRecord['data'], 'calledBy'>): ReadingRef[] =>
  calledBy && 'when' in calledBy ? readingsOfCondition(calledBy.when) : [];

/**
 * The page to which a screen that follows goes now, among its own: the first that is called; else the one for while none is. `undefined`
 * when it stays where it is: it has no such page, or nobody knows whether another is called.
 */
export function calledAmong(pages: StatusView['pages'], { now, unsure }: StatusView['called']): string | undefined {
  const called = pages.find(({ id }) => now.includes(id));
  if (called) return called.id;
  if (pages.some(({ id }) => unsure.includes(id))) return undefined;
  return pages.find(({ call }) => call === 'otherwise')?.id;
}
