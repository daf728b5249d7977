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
import { Button } from '../parts';
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
    <section className="guide" aria-label="First steps">
      <ol>
        {steps.map(({ name, done }) => (
          <li key={name} aria-current={name === next?.name ? 'step' : undefined}>
            <span className="guide-mark" aria-hidden>
              {done && <Check size={14} strokeWidth={3.5} />}
            </span>
            {name}
            {done && <span className="sr-only"> done</span>}
          </li>
        ))}
      </ol>
      <p>{next ? next.say : 'Every step is done: the show is patched, laid out, pressed and tested.'}</p>
      {place !== undefined && !path.startsWith(place) && (
        <Link className="btn btn-strong" href={place}>
          {place === '/rig' ? 'Go to the rig' : 'Go to the pages'}
        </Link>
      )}
      <Button kind="ghost" onClick={() => guideWanted.set('off')}>
        Dismiss
      </Button>
    </section>
  );
}
