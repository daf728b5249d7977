'use client';

import { useConnection } from '../live';

/** Says at once, and loudly, that this screen is cut off from the engine. */
export function CutOff() {
  if (useConnection().at !== 'cut') return null;
  return (
    <div role="alert" className="cut-off">
      <span aria-hidden>✕ </span>
      Cut off from the engine. What is shown may be out of date. Reconnecting …
    </div>
  );
}
