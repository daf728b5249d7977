'use client';

import type { useGear } from './use-gear';

/** What to do next while a binding is learnt. */
export function LearnBar({ gear }: { readonly gear: ReturnType<typeof useGear> }) {
  const { learning, learn } = gear;
  if (learning.at === 'off') return null;
  return (
    <div className="learn-bar" role="status">
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
