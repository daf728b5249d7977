'use client';

import { ChevronDown } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { figuresText, type Figures } from '../../core/line-check';
import type { CheckItemView } from '../../core/live';
import type { ShowRecord } from '../../core/show';
import { useShow } from '../desk';
import { Button, buttonClass, Menu, Progress } from '../kit';
import { useNow, useStatus } from '../live';
import { ageText } from '../parts';
import type { LineCheckDesk } from '../proofs';
import { PartDialog } from './part-dialog';
import { PutBackDialog } from './put-back-dialog';

interface Props {
  readonly figures: Figures;
  readonly items: readonly CheckItemView[];
  readonly names: ReadonlyMap<string, string>;
  readonly check: LineCheckDesk;
  readonly onWalk: () => void;
}

/** How far the show is proved, and what can be done about it. */
export function CheckSummary({ figures, items, names, check, onWalk }: Props) {
  const { view, isAsking, run, control } = check;
  const now = useNow();
  const router = useRouter();
  const status = useStatus();
  const { show } = useShow();
  const [isChoosing, setChoosing] = useState(false);
  const sites = useMemo(() => sitesOf(show?.records ?? []), [show]);
  const questions = items.filter(
    ({ proofs, standing }) => proofs.some(({ by }) => by === 'person') && standing !== 'passed',
  );
  const newest = items.flatMap(({ results }) => results.map(({ at }) => at)).reduce((a, b) => Math.max(a, b), 0);
  const isMaking = view?.plan.state === 'making';
  return (
    <header className="mb-3 grid gap-2">
      <div className="flex min-h-9.5 flex-wrap items-center gap-x-3.5 gap-y-2">
        <h1 id="line-check-title">Line check</h1>
        <span role="status" className="text-ink-soft">
          {isMaking ? 'Planning …' : items.length > 0 && figuresText(figures)}
          {newest > 0 && now > 0 && ` · last proof ${ageText(now - newest)} ago`}
        </span>
        <span className="ml-auto flex flex-wrap gap-2.5">
          {!view?.run && (
            <>
              <Button kind="strong" disabled={isAsking || isMaking} onClick={() => void run({ only: 'all' })}>
                Check the show
              </Button>
              <Menu
                acts={[
                  { title: 'Check what is open or due', run: () => void run({ only: 'open' }) },
                  { title: 'Check what failed', run: () => void run({ only: 'failed' }) },
                  { title: 'Check the devices only', run: () => void run({ only: 'all', rehearse: false }) },
                  { title: 'Check a part …', run: () => setChoosing(true) },
                  { title: 'Plan again', run: () => void control('plan') },
                  { title: 'Burn-in …', run: () => router.push('/line-check/burn-in') },
                  { title: 'Fault drills …', run: () => router.push('/line-check/drills') },
                ]}
              >
                <Button disabled={isAsking || isMaking}>
                  More checks <ChevronDown aria-hidden className="size-4" />
                </Button>
              </Menu>
              <PutBackDialog items={items} names={names} check={check} />
            </>
          )}
          <Button disabled={questions.length === 0} onClick={onWalk}>
            Walk-round{questions.length > 0 && ` (${questions.length})`}
          </Button>
          <Link className={buttonClass()} href="/line-check/report">
            Report
          </Link>
        </span>
      </div>
      <PartDialog isOpen={isChoosing} onOpenChange={setChoosing} status={status} sites={sites} check={check} />
      {view?.run && <RunLine run={view.run} check={check} />}
      {view?.plan.isOld && !view.run && (
        <p className="text-ink-soft">The show has changed since this was planned. The next check plans again.</p>
      )}
      {view?.plan.why && view.plan.state === 'failed' && (
        <p className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">{view.plan.why}</p>
      )}
    </header>
  );
}

/** Where the devices of a show are, each site once. */
const sitesOf = (records: readonly ShowRecord[]): readonly string[] =>
  [
    ...new Set(records.flatMap((record) => (record.kind === 'device' && record.data.site ? [record.data.site] : []))),
  ].sort();

interface RunProps {
  readonly run: NonNullable<NonNullable<LineCheckDesk['view']>['run']>;
  readonly check: LineCheckDesk;
}

/** The check that runs, or waits to be resumed. */
function RunLine({ run, check: { control, isAsking } }: RunProps) {
  const isPaused = run.state === 'paused';
  const left = run.leftMs === undefined ? '' : `, about ${ageText(run.leftMs)} left`;
  return (
    <div className="flex flex-wrap items-center gap-x-3.5 gap-y-2 border-y border-rule py-2">
      <Progress label="Line check" part={run.total === 0 ? 0 : run.done / run.total} className="max-w-70 flex-1" />
      <span>
        {isPaused
          ? run.total === 0
            ? 'A check was interrupted when the program ended.'
            : `Paused: ${run.done} of ${run.total} proofs.`
          : `${run.done} of ${run.total} proofs${left}.`}
        {run.isOld && ' The show has changed meanwhile; this check goes on with its old plan.'}
      </span>
      <span className="ml-auto flex gap-2.5">
        <Button disabled={isAsking} onClick={() => void control(isPaused ? 'resume' : 'pause')}>
          {isPaused ? 'Resume' : 'Pause'}
        </Button>
        <Button disabled={isAsking} onClick={() => void control('cancel')}>
          Cancel check
        </Button>
      </span>
    </div>
  );
}
