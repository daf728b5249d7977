'use client';

import { useSyncExternalStore } from 'react';

const query = '(max-width: 900px)';

const follow = (onChange: () => void): (() => void) => {
  const list = window.matchMedia(query);
  list.addEventListener('change', onChange);
  return () => list.removeEventListener('change', onChange);
};

/** True on a screen on which a table with many columns does not fit. */
export const useNarrow = (): boolean =>
  useSyncExternalStore(
    follow,
    () => window.matchMedia(query).matches,
    () => false,
  );
