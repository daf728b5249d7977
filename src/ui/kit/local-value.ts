'use client';

import { useSyncExternalStore } from 'react';

/** A word kept in this browser, the same in all of its windows. */
interface LocalValue {
  readonly get: () => string | undefined;
  readonly set: (value: string) => void;
  /** The word now; `undefined` while there is none, and while the page is made on the server. */
  readonly use: () => string | undefined;
}

export function localValue(key: string): LocalValue {
  const changed = `${key}-changed`;
  const get = () => localStorage.getItem(key) ?? undefined;
  const subscribe = (listener: () => void) => {
    window.addEventListener(changed, listener);
    // Other windows of this browser may be on the screen that is filmed too.
    window.addEventListener('storage', listener);
    return () => {
      window.removeEventListener(changed, listener);
      window.removeEventListener('storage', listener);
    };
  };
  return {
    get,
    set: (value) => {
      localStorage.setItem(key, value);
      window.dispatchEvent(new Event(changed));
    },
    use: () => useSyncExternalStore(subscribe, get, () => undefined),
  };
}
