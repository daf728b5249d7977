'use client';

import { useState } from 'react';
import { readingTitle } from '../../core/driver';
import type { AsRunRow } from '../../core/live';
import { isWell } from '../../core/session';
import type { DeskView, ReadingRef, WatchRecord } from '../../core/show';
import { devicesOfTrial, tryDry, type DryTrial, type PastEvent } from '../../core/watch';
import { useRigFacts } from '../fields';
import { Button, Fold, tellRefused } from '../kit';
import { clockText } from '../parts';

interface Props {
  readonly show: DeskView;
  readonly watch: WatchRecord;
}

interface Tried {
  readonly trial: DryTrial;
  readonly from: number;
  readonly to: number;
  /** What was tried: when the watch is edited, the answer is about what it was. */
  readonly of: string;
}

const hourMs = 3_600_000;
/** What was reported before the hour is known at its beginning. */
const beforeMs = 6 * hourMs;
const mostShown = 20;

/** When the watch would have fired within the last hour, by what the as-run has kept of the readings. */
export function TrialPart({ show, watch }: Props) {
  const { documentOf, deviceOf } = useRigFacts();
  const [tried, setTried] = useState<Tried>();
  const [isBusy, setBusy] = useState(false);
  const { data } = watch;
  if (data.when.is === 'message') return null;
  const of = JSON.stringify([data.when, data.unless, data.quietMs, data.mostPerMinute, data.once]);
  const settings = show.records.find((record) => record.kind === 'show')?.data;
  const run = async () => {
    setBusy(true);
    const to = Date.now();
    const from = to - hourMs;
    try {
      const rows = await Promise.all(
        devicesOfTrial(data).flatMap((id) => {
          const tag = deviceOf(id)?.data.tag;
          return tag === undefined ? [] : [eventsOf(id, tag, from - beforeMs, to)];
        }),
      );
      const events = rows.flat().sort((a, b) => a.at - b.at);
      const trial = tryDry(data, events, { documentOf, from, to, zone: settings?.zone, beginsAt: settings?.beginsAt });
      setTried({ trial, from, to, of });
    } catch {
      tellRefused('The as-run could not be read. Try again in a moment.', 'trial');
    } finally {
      setBusy(false);
    }
  };
  return (
    <Fold name="Try it on the past">
      <span>
        <Button disabled={isBusy} onClick={() => void run()}>
          {isBusy ? 'Reading the as-run …' : 'When would it have fired in the last hour?'}
        </Button>
      </span>
      {tried && tried.of === of && (
        <Answer
          tried={tried}
          nameOf={({ device, key }) =>
            `${deviceOf(device)?.data.tag ?? '?'} ${readingTitle(documentOf(device), key) ?? key}`
          }
        />
      )}
    </Fold>
  );
}

function Answer({
  tried: { trial, from, to },
  nameOf,
}: {
  readonly tried: Tried;
  readonly nameOf: (ref: ReadingRef) => string;
}) {
  const { firings, unrecorded } = trial;
  const fired = firings.filter(({ kept }) => kept === undefined).length;
  const times = fired === 1 ? 'once' : `${fired} times`;
  return (
    <div role="status" className="grid gap-1.5 text-[14px]">
      <p>
        {fired === 0 ? 'It would not have fired' : `It would have fired ${times}`} between {clockText(from, false)} and{' '}
        {clockText(to, false)}. Nothing was sent.
      </p>
      {unrecorded.length > 0 && (
        <p className="border-l-4 border-warning pl-2.5">
          The as-run has nothing of {unrecorded.map(nameOf).join(', ')} in this time.
        </p>
      )}
      {firings.length > 0 && (
        <ol className="grid gap-0.5">
          {firings.slice(-mostShown).map(({ at, kept }, n) => (
            <li key={`${at} ${n}`} className={kept === undefined ? '' : 'text-ink-soft'}>
              <span className="font-mono">{clockText(at)}</span>{' '}
              {kept === undefined ? 'fires' : `does not fire: ${kept}`}
            </li>
          ))}
        </ol>
      )}
      {firings.length > mostShown && <p className="text-ink-soft">The last {mostShown} are shown.</p>}
    </div>
  );
}

/** What the as-run has of a device: its readings, and when its link was lost. */
async function eventsOf(device: string, tag: string, from: number, to: number): Promise<PastEvent[]> {
  const read = async (kind: 'reading' | 'link') => {
    const query = new URLSearchParams({ format: 'jsonl', kind, device: tag, from: String(from), to: String(to) });
    const answer = await fetch(`/desk/as-run/export?${query.toString()}`);
    if (!answer.ok) throw new Error('The as-run cannot be read.');
    const lines = (await answer.text()).split('\n').filter((line) => line !== '');
    return lines.map((line) => JSON.parse(line) as AsRunRow);
  };
  const rows = (await Promise.all([read('reading'), read('link')])).flat();
  return rows.flatMap((row): PastEvent[] => eventOf(device, row));
}

function eventOf(device: string, row: AsRunRow): PastEvent[] {
  const { at } = row;
  if (row.kind === 'reading') return [{ at, device, key: row.key, value: row.value }];
  return row.kind === 'link' && !isWell(row.link.word) ? [{ at, device, lost: true }] : [];
}
