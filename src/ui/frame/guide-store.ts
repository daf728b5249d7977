'use client';

import { useSyncExternalStore } from 'react';

/** The guide through the first steps: whether it is shown in this browser, and whether a whole rig was tested. */
const shownKey = 'sorrelfinch-first-steps';
const testedKey = 'sorrelfinch-rig-tested';
const changed = 'sorrelfinch-first-steps-changed';

function set(key: string, value: string | undefined): void {
  if (value === undefined) localStorage.removeItem(key);
  else localStorage.setItem(key, value);
  window.dispatchEvent(new Event(changed));
}

export const showGuide = (): void => set(shownKey, 'on');
export const putGuideAway = (): void => set(shownKey, 'off');
/** The rig of this show was tested whole. */
export const markTested = (show: string): void => set(testedKey, show);

function subscribe(listener: () => void): () => void {
  window.addEventListener(changed, listener);
  window.addEventListener('storage', listener);
  return () => {
    window.removeEventListener(changed, listener);
    window.removeEventListener('storage', listener);
  };
}

/** `undefined`: nobody has said yet whether it is wanted. */
export const useGuideShown = (): 'on' | 'off' | undefined =>
  useSyncExternalStore(
    subscribe,
    () => {
      const said = localStorage.getItem(shownKey);
      return said === 'on' || said === 'off' ? said : undefined;
    },
    () => undefined,
  );

export const useTestedShow = (): string | undefined =>
  useSyncExternalStore(
    subscribe,
    () => localStorage.getItem(testedKey) ?? undefined,
    () => undefined,
  );
