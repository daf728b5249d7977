'use client';

import { useEffect, useRef } from 'react';
import { pageOfKey, type ScreenKey } from '../../core/page';

/**
 * What a screen key does on this screen, which remembers the page it showed before.
 *
 * @param pages the pages of the screen, in their order
 * @param page the one that is shown
 * @param onScreen locks or dims the screen, where that is possible
 */
export function useScreenKey(
  pages: readonly { readonly id: string }[],
  page: string | undefined,
  show: (page: string) => void,
  onScreen?: (act: 'lock' | 'dim') => void,
): (key: ScreenKey) => void {
  const way = useRef<{ readonly now: string | undefined; readonly before: string | undefined }>({
    now: undefined,
    before: undefined,
  });
  useEffect(() => {
    if (way.current.now !== page) way.current = { now: page, before: way.current.now };
  }, [page]);
  return (key) => {
    if ('screen' in key) return onScreen?.(key.screen);
    const order = pages.map(({ id }) => id);
    const goal = pageOfKey(key, order, page, way.current.before);
    if (goal !== undefined) show(goal);
  };
}
