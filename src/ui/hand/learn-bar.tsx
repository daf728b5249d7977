'use client';

import type { useGear } from './use-gear';

/** What to do next while a binding is learnt. */
export function LearnBar({ gear }: { readonly gear: ReturnType<typeof useGear> }) {
  const { learning, learn } = gear;
  if (learning.at === 'off') return null;
  return (
    <div
      className="sticky top-0 z-10 flex items-center justify-between gap-4 bg-ink px-3.5 py-2.5 text-[18px] text-ground [&_button]:min-h-11 [&_button]:border [&_button]:border-rule-strong [&_button]:bg-tape [&_button]:px-3.5 [&_button]:text-ink"
      role="status"
    >
      {learning.at === 'control' ? (
        <p>Touch the control on this screen. It is not pressed.</p>
      ) : (
        <p>
          Now use it on the gear for <b>{learning.name}</b>: press, move or turn. {learning.wrong}
        </p>
      )}
      <button type="button" onClick={() => learn({ at: 'off' })}>
        Cancel
      </button>
    </div>
  );
}
