'use client';

import { useConnection } from '../live';
import { Cross } from '../parts';

/** Says at once, and loudly, that this screen is cut off from the engine. */
export function CutOff() {
  if (useConnection().at !== 'cut') return null;
  return (
    <div role="alert" className="bg-fault px-4 py-2.5 font-semibold text-fault-ink">
      <Cross />
      Cut off from the engine. What is shown may be out of date. Reconnecting …
    </div>
  );
}
