'use client';

import { useState } from 'react';
import { useStatus } from '../live';
import { VeiledText } from '../parts';

/** On a panel: how many things are beyond their limits. Pressed, it says which. Nothing of the page moves for it. */
export function HealthMark() {
  const open = useStatus()?.health?.open ?? [];
  const [isShown, setShown] = useState(false);
  if (open.length === 0) return null;
  return (
    <span className="relative">
      <button
        type="button"
        className="min-h-11 min-w-11 bg-warning px-3 font-bold text-warning-ink"
        aria-expanded={isShown}
        onClick={() => setShown(!isShown)}
      >
        {open.length === 1 ? '1 health notice' : `${open.length} health notices`}
      </button>
      {isShown && (
        <ul
          aria-label="Health notices"
          className="absolute top-full right-0 z-20 w-[min(380px,90vw)] border border-rule-strong bg-raised"
        >
          {open.map(({ id, text }) => (
            <li key={id} className="border-t border-rule px-3 py-2.5 first:border-t-0">
              <VeiledText text={text} />
            </li>
          ))}
        </ul>
      )}
    </span>
  );
}
