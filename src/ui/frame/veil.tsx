'use client';

import { useEffect } from 'react';

import { shortcuts } from './shortcuts';
import { Button, localValue } from '../kit';

const veil = localValue('sorrelfinch-veil');

export const toggleVeil = (): void => veil.set(veil.get() === 'on' ? 'off' : 'on');

/** Draws the veil while the screen is shared or filmed, and says that it is drawn. */
export function Veil() {
  const veiled = veil.use() === 'on';
  useEffect(() => {
    document.documentElement.toggleAttribute('data-veiled', veiled);
  }, [veiled]);
  return veiled ? (
    <Button className="min-h-7.5! px-2! font-bold" onClick={toggleVeil}>
      veiled <kbd>{shortcuts.desk.veil.shown}</kbd>
    </Button>
  ) : null;
}
