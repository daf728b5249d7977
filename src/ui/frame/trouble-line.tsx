'use client';

import { useStatus } from '../live';

/** Says on every screen what the program cannot write or read, for as long as that lasts. */
export function TroubleLine() {
  const troubles = useStatus()?.troubles ?? [];
  if (troubles.length === 0) return null;
  return (
    <div role="alert" className="cut-off">
      {troubles.map(({ code, text }) => (
        <p key={code}>
          <span aria-hidden>✕ </span>
          {text}
        </p>
      ))}
    </div>
  );
}
