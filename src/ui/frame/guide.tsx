'use client';

import { Check } from 'lucide-react';
import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { useEffect } from 'react';
import { isPressed } from '../../core/live';
import { isWell } from '../../core/session';
import { firstSteps } from '../../core/show';
import { useShow } from '../desk';
import { useAsRun, useStatus } from '../live';

import { Button, buttonClass } from '../kit';
import { guideWanted, useTestedShow } from './guide-store';

const places = { Patch: '/rig', Page: '/pages', Press: '/pages', Test: '/rig' } as const;

/** Leads through a new show: patch, page, press, test. It comes by itself with an empty rig, and stays until it is done or put away. */
export function Guide() {
  const { show } = useShow();
  const status = useStatus();
  const asRun = useAsRun();
  const path = usePathname();
  const shown = guideWanted.use();
  const tested = useTestedShow();
  const devices = (show?.records ?? []).flatMap((record) => (record.kind === 'device' ? [record] : []));
  // A device that is switched off is not missed.
  const wanted = devices.filter(({ data }) => data.enabled);
  const empty = show !== undefined && devices.length === 0;
  useEffect(() => {
    if (empty && shown === undefined) guideWanted.set('on');
  }, [empty, shown]);
  if (!show || shown !== 'on') return null;
  const steps = firstSteps({
    devices: wanted.length,
    addressed: wanted.filter(({ data }) => data.host !== '' || data.through).length,
    up: wanted.filter(({ id }) => isWell(status?.devices[id]?.link.word ?? 'off')).length,
    pages: show.records.filter(({ kind }) => kind === 'page').length,
    controls: show.records.filter(({ kind }) => kind === 'control').length,
    pressed: asRun?.rows.some(isPressed) ?? false,
    tested: tested === status?.show.name,
  });
  const next = steps.find(({ done }) => !done);
  const place = next && places[next.name];
  return (
    <section
      className="flex flex-wrap items-center gap-x-5 gap-y-1.5 border-b border-rule-strong bg-tape px-4 py-2 [&_[aria-current]]:font-bold [&_[aria-current]]:text-ink [&_ol]:m-0 [&_ol]:flex [&_ol]:list-none [&_ol]:gap-4 [&_ol]:p-0 [&_ol]:text-ink-soft [&_p]:m-0 [&_p]:flex-[1_1_300px]"
      aria-label="First steps"
    >
      <ol>
        {steps.map(({ name, done }) => (
          <li key={name} aria-current={name === next?.name ? 'step' : undefined}>
            <span
              className="align--2px mr-1.5 inline-block h-4 w-4 border-2 border-current text-center text-[12px] leading-3"
              aria-hidden
            >
              {done && <Check size={14} strokeWidth={3.5} />}
            </span>
            {name}
            {done && <span className="sr-only"> done</span>}
          </li>
        ))}
      </ol>
      <p>{next ? next.say : 'Every step is done: the show is patched, laid out, pressed and tested.'}</p>
      {place !== undefined && !path.startsWith(place) && (
        <Link className={buttonClass({ kind: 'strong' })} href={place}>
          {place === '/rig' ? 'Go to the rig' : 'Go to the pages'}
        </Link>
      )}
      <Button kind="ghost" onClick={() => guideWanted.set('off')}>
        Dismiss
      </Button>
    </section>
  );
}
