'use client';

import { useStatus } from '../live';

interface TroubleLineProps {
  /** On a panel only what concerns the hands on it: nobody there can put a file back. */
  readonly panel?: boolean;
}

/** Says on every screen what the program cannot write or read, for as long as that lasts. */
export function TroubleLine({ panel = false }: TroubleLineProps) {
  const all = useStatus()?.troubles ?? [];
  const troubles = panel ? all.filter(({ code }) => code === 'not-kept' || code === 'not-recorded') : all;
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
