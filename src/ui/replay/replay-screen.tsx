'use client';

import { format } from 'date-fns';
import Link from 'next/link';
import { useState } from 'react';
import { Button, buttonClass, DateTimeField, EmptyState, Progress, Segmented, Select } from '../kit';
import { saveJson } from '../parts';
import { ReplaySteps } from './replay-steps';
import { useReplay, type ReplayState } from './use-replay';

const speeds = [
  { value: '1', title: 'as it was' },
  { value: '2', title: 'twice as fast' },
  { value: '5', title: '5 times as fast' },
  { value: '10', title: '10 times as fast' },
  { value: '0', title: 'without pauses' },
] as const;
const usualMinutes = 10;

const textOf = (at: number): string => format(at, "yyyy-MM-dd'T'HH:mm:ss");

/** Plays a part of the as-run at stand-ins, and lists what the show does otherwise than then. The devices are not touched. */
export default function ReplayScreen() {
  const { state, begin, cancel } = useReplay();
  const [from, setFrom] = useState(() => textOf(Date.now() - usualMinutes * 60_000));
  const [to, setTo] = useState(() => textOf(Date.now()));
  const [speed, setSpeed] = useState<(typeof speeds)[number]['value']>('1');
  const [part, setPart] = useState<'all' | 'differing'>('all');
  const isRunning = state.at === 'opening' || state.at === 'playing';
  // The last second belongs to it.
  const order = { from: new Date(from).getTime(), to: new Date(to).getTime() + 999, speed: Number(speed) };
  const isTurned = order.from >= order.to;
  const steps = part === 'all' ? state.steps : state.steps.filter(({ differences }) => differences.length > 0);
  return (
    <section className="flex h-full min-h-full flex-col gap-3 px-4 pt-3.5 pb-3" aria-labelledby="replay-title">
      <div className="flex min-h-9.5 flex-wrap items-center gap-x-3.5 gap-y-2">
        <h1 id="replay-title">Replay</h1>
        <p className="text-ink-soft">
          Plays a part of the as-run at stand-ins with the show as it is now, and lists what differs. The devices are
          not touched.
        </p>
        <Link className={buttonClass({ className: 'ml-auto' })} href="/as-run">
          Back to the as-run
        </Link>
      </div>
      <div className="flex flex-wrap items-end gap-x-3.5 gap-y-2">
        <DateTimeField label="From" withSeconds value={from} onChange={(at) => at !== undefined && setFrom(at)} />
        <DateTimeField
          label="To"
          withSeconds
          value={to}
          onChange={(at) => at !== undefined && setTo(at)}
          error={isTurned ? 'Not after the beginning.' : undefined}
        />
        <Select label="Speed" value={speed} options={speeds} onChoose={setSpeed} />
        {isRunning ? (
          <Button onClick={cancel}>Cancel replay</Button>
        ) : (
          <Button kind="strong" disabled={isTurned} onClick={() => void begin(order)}>
            Play
          </Button>
        )}
      </div>
      <Summary state={state} />
      {state.steps.length > 0 && (
        <div className="flex flex-wrap items-center gap-2.5">
          <Segmented
            label="Which presses"
            value={part}
            options={[
              { value: 'all', title: 'All presses' },
              { value: 'differing', title: 'Differences' },
            ]}
            onChoose={setPart}
          />
          <Button
            disabled={isRunning}
            onClick={() => saveJson('replay.json', JSON.stringify({ format: 1, ...order, ...state }, null, 2))}
          >
            Save as JSON
          </Button>
        </div>
      )}
      {state.at === 'nothing' ? (
        <EmptyState title="Nothing has been played yet.">
          Choose a time in which something was pressed. Every press is made again; what is sent and reported is compared
          with the record.
        </EmptyState>
      ) : (
        <ReplaySteps steps={steps} left={part === 'all' ? state.left : []} />
      )}
    </section>
  );
}

function Summary({ state: { at, total, set, steps, left, why } }: { readonly state: ReplayState }) {
  const differing = steps.filter(({ differences }) => differences.length > 0).length;
  if (at === 'nothing') return null;
  if (at === 'failed')
    return <p className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">{why ?? 'The replay failed.'}</p>;
  if (at === 'opening')
    return (
      <p role="status" className="flex items-center gap-3.5">
        <Progress label="Replay" part={undefined} className="max-w-70 flex-1" /> Starting the stand-ins …
      </p>
    );
  const found = differing === 0 ? 'no differences' : differing === 1 ? '1 differs' : `${differing} differ`;
  return (
    <p role="status" className="flex flex-wrap items-center gap-x-3.5 gap-y-1">
      {at === 'playing' && (
        <Progress label="Replay" part={total === 0 ? 1 : steps.length / total} className="max-w-70 flex-1" />
      )}
      <span>
        {at === 'cancelled' && 'Cancelled. '}
        {steps.length} of {total} presses: {found}
        {left.length > 0 && `, ${left.length} left out`}.
      </span>
      <span className="text-ink-soft">{set > 0 && `${set} readings were set beforehand.`}</span>
    </p>
  );
}
