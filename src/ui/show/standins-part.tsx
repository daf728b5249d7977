'use client';

import { useDesk } from '../desk';
import { Button, buttonClass } from '../kit';
import { useStatus } from '../live';

/** The simulated devices of the demo show: whether they run, where they are seen, and how they are ended. */
export function StandinsPart() {
  const desk = useDesk();
  const pages = useStatus()?.standinPages ?? null;
  return (
    <section aria-labelledby="standins-title">
      <h2 id="standins-title">Stand-ins</h2>
      <p className="text-ink-soft">
        The simulated devices that the demo show runs on. They listen on this computer only. Stop them when you use real
        devices.
      </p>
      <p>{pages ? 'They are running.' : 'They are not running.'}</p>
      <div className="col-span-full flex flex-wrap gap-2.5">
        {pages && (
          <a className={buttonClass()} href={pages} target="_blank" rel="noreferrer">
            Open their page
          </a>
        )}
        <Button disabled={desk.saving} onClick={() => void desk.standins(!pages)}>
          {pages ? 'Stop the stand-ins' : 'Start the stand-ins'}
        </Button>
      </div>
    </section>
  );
}
