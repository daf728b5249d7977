'use client';

import { useEffect } from 'react';
import { Button } from '../parts';
import { localValue } from '../kit';

/** The key that draws the veil over addresses, names of people and secrets, and takes it away. */
export const veilKey = 'F8';
const veil = localValue('sorrelfinch-veil');

export const toggleVeil = (): void => veil.set(veil.get() === 'on' ? 'off' : 'on');

/** Draws the veil while the screen is shared or filmed, and says that it is drawn. */
export function Veil() {
  const veiled = veil.use() === 'on';
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
