'use client';

import { useEffect, useRef } from 'react';
import { pageOfKey, type PageKey } from '../../core/page';

/**
 * What a page key does on this screen, which remembers where it was before.
 *
 * @param pages the pages of the screen, in their order
 * @param page the one that is shown
 */
export function usePageKey(
  pages: readonly { readonly id: string }[],
  page: string | undefined,
  show: (page: string) => void,
): (key: PageKey) => void {
  const way = useRef<{ readonly now: string | undefined; readonly before: string | undefined }>({
    now: undefined,
    before: undefined,
  });
  useEffect(() => {
    if (way.current.now !== page) way.current = { now: page, before: way.current.now };
  }, [page]);
  return (key) => {
    const order = pages.map(({ id }) => id);
    const goal = pageOfKey(key, order, page, way.current.before);
    if (goal !== undefined) show(goal);
  };
}
