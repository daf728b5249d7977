'use client';

import type { TestCandidate } from '../../core/live';
import type { DeskView } from '../../core/show';
import { Button } from '../kit';
import { TestPane } from './test-pane';
import { useTests } from './use-test';

interface Props {
  /** The device as it is tested. */
  readonly candidate: TestCandidate;
}

/** True where there are other addresses: not at a serial port, nor behind a gateway. */
export const canCompare = (show: DeskView, driver: string, through: string): boolean =>
  through === '' && show.drivers.find(({ id }) => id === driver)?.link.kind !== 'serial';

/** What a connection test says here of an address that nobody has: beside it a real trouble is easier to tell. */
export function UnusedTest({ candidate }: Props) {
  const { tests, running, failed, run, stop } = useTests();
  const test = tests.get('');
  const { id: _, ...place } = candidate;
  return (
    <section className="mt-3 border-t border-rule pt-3" aria-label="For comparison">
      <div className="flex flex-wrap items-center gap-3">
        {running ? (
          <Button onClick={stop}>Stop testing</Button>
        ) : (
          <Button onClick={() => void run({ candidate: place, beside: true }, [''])}>Test an unused address</Button>
        )}
        <span className="text-[14px] text-ink-soft">
          For comparison: an address beside this one that nobody has. On this computer, an unused port.
        </span>
      </div>
      {failed && <p className="mt-2 bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">{failed}</p>}
      {test && <TestPane test={test} />}
    </section>
  );
}
