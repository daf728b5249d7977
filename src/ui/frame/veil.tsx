'use client';

import { useEffect, useSyncExternalStore } from 'react';
import { Button } from '../parts';

/** The key that draws the veil over addresses, names of people and secrets, and takes it away. */
export const veilKey = 'F8';
const store = 'sorrelfinch-veil';
const changed = 'sorrelfinch-veil-changed';

const isVeiled = (): boolean => localStorage.getItem(store) === 'on';

export function toggleVeil(): void {
  localStorage.setItem(store, isVeiled() ? 'off' : 'on');
  window.dispatchEvent(new Event(changed));
}

function subscribe(listener: () => void): () => void {
  window.addEventListener(changed, listener);
  // Other windows of this browser may be on the screen that is filmed too.
  window.addEventListener('storage', listener);
  return () => {
    window.removeEventListener(changed, listener);
    window.removeEventListener('storage', listener);
  };
}

/** Draws the veil while the screen is shared or filmed, and says that it is drawn. */
export function Veil() {
  const veiled = useSyncExternalStore(subscribe, isVeiled, () => false);
  useEffect(() => {
    document.documentElement.toggleAttribute('data-veiled', veiled);
  }, [veiled]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== veilKey || event.repeat) return;
      event.preventDefault();
      toggleVeil();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  return veiled ? (
    <Button className="veil-word" onClick={toggleVeil}>
      veiled <kbd>{veilKey}</kbd>
    </Button>
  ) : null;
}
