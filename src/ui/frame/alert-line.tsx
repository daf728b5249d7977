'use client';

import { useStatus } from '../live';
import { Cross } from '../parts';

interface AlertLineProps {
  /** On a panel only what concerns the hands on it: nobody there can put a file back. */
  readonly panel?: boolean;
}

/** Says on every screen what the program cannot write or read, for as long as that lasts. */
export function AlertLine({ panel = false }: AlertLineProps) {
  const all = useStatus()?.alerts ?? [];
  const alerts = panel ? all.filter(({ code }) => code === 'not-kept' || code === 'not-recorded') : all;
  if (alerts.length === 0) return null;
  return (
    <div role="alert" className="bg-fault px-4 py-2.5 font-semibold text-fault-ink">
      {alerts.map(({ code, text }) => (
        <p key={code}>
          <Cross />
          {text}
        </p>
      ))}
    </div>
  );
}
