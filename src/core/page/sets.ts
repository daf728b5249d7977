import type { ControlRecord } from '../show';
import { withPick, withShift, type PageContext } from './context-key';

type Sets = NonNullable<ControlRecord['data']['sets']>;
/** What a page key chooses. */
type PageKey = { readonly page: string } | { readonly go: 'next' | 'back' | 'first' };

/** What acts on a screen as a whole instead of on how its page is looked at. */
export type ScreenKey = PageKey | { readonly screen: 'lock' | 'dim' };

/** True for a control that changes the page of a screen, locks the screen or dims it. */
export const isScreenKey = (sets: Sets | ScreenKey): sets is ScreenKey =>
  'page' in sets || 'go' in sets || 'screen' in sets;

/**
 * How a page is looked at after a control that chooses was pressed (`down`) or let go. A pick is a pick, also of what is picked or followed
 * already; a level that is chosen is left by choosing it again. A screen key changes nothing about how its page is looked at.
 */
export function setBy(context: PageContext, sets: Sets, down: boolean): PageContext {
  if (isScreenKey(sets)) return context;
  if ('zone' in sets) return down ? withPick(context, sets.zone, sets.device) : context;
  if (sets.while === 'held') return withShift(context, down ? sets.shift : undefined);
  return down ? withShift(context, context.shift === sets.shift ? undefined : sets.shift) : context;
}

/**
 * The page to which a page key leads; `undefined` where it leads nowhere: to a page that this screen does not have, or back to none.
 *
 * @param pages the pages of the screen, in their order; behind the last comes the first again
 * @param now the page that is shown
 * @param before the page that was shown before it
 */
export function pageOfKey(
  sets: PageKey,
  pages: readonly string[],
  now: string | undefined,
  before: string | undefined,
): string | undefined {
  const goal =
    'page' in sets
      ? sets.page
      : sets.go === 'first'
        ? pages[0]
        : sets.go === 'back'
          ? before
          : pages[(pages.indexOf(now ?? '') + 1) % Math.max(1, pages.length)];
  return goal !== undefined && goal !== now && pages.includes(goal) ? goal : undefined;
}
