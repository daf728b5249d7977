'use client';

import { Circle } from 'lucide-react';
import type { Lamp } from '../../core/lamp';
import { useNow } from '../live';
import { ageText, Cross } from '../parts';

/** The lamp over a control's label: a meaning in its colour with its word, or how it does not know. */
export function LampBar({ lamp }: { readonly lamp: Lamp }) {
  switch (lamp.show) {
    case 'off':
      return <span className="lamp bg-rule opacity-45 has-[+_:is(.shown-picture,.shown-layout)]:hidden" />;
    case 'unknown':
      return (
        <span className="lamp-unknown lamp [&_b]:bg-tape [&_b]:px-1.5 [&_b]:py-px">
          <b>unknown</b>
        </span>
      );
    case 'stale':
      return <StaleBar since={lamp.since} />;
    default:
      return (
        <span className={`lamp lamp-${lamp.show}`} data-blink={lamp.blink}>
          {lamp.show === 'recording' && (
            <Circle aria-hidden fill="currentColor" className="mr-[0.25em] inline size-[0.7em]" />
          )}
          {lamp.show === 'fault' && <Cross />}
          {lamp.word}
        </span>
      );
  }
}

function StaleBar({ since }: { readonly since: number }) {
  const now = useNow();
  return (
    <span className="lamp-stale lamp [&_b]:bg-tape [&_b]:px-1.5 [&_b]:py-px">
      <b>{now === 0 ? 'stale' : `stale ${ageText(now - since)}`}</b>
    </span>
  );
}

/** A lamp in words, for those who do not see it. */
export function lampWords(lamp: Lamp): string {
  switch (lamp.show) {
    case 'off':
      return '';
    case 'unknown':
      return 'state unknown';
    case 'stale':
      return 'state may be old';
    default:
      return lamp.word.toLowerCase();
  }
}
