'use client';

import { useConnection } from '../live';
import { Cross } from '../parts';

/** Says at once, and loudly, that this screen is cut off from the engine. */
export function CutOff() {
  if (useConnection().at !== 'cut') return null;
  return (
    <div role="alert" className="cut-off">
      <Cross />
      Cut off from the engine. What is shown may be out of date. Reconnecting …
    </div>
  );
}
