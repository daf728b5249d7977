'use client';

import Link from 'next/link';
import { useState } from 'react';
import { tellingOf } from '../../core/line-check';
import { Button, Fold } from '../kit';
import { VeiledText } from '../parts';
import { useLineCheck } from './use-line-check';
import { kindWords, StandingWord } from './words';

/** What the line check knows of a control: its commands and what it shows. Asked for only when somebody wants to see it. */
export function ControlProofs({ control }: { readonly control: string }) {
  const [isWanted, setWanted] = useState(false);
  return (
    <Fold name="Line check">
      {isWanted ? <Proofs control={control} /> : <Button onClick={() => setWanted(true)}>Show its proofs</Button>}
    </Fold>
  );
}

/** The items that are about a control, with what was seen, and the check of them. */
export function Proofs({ control }: { readonly control: string }) {
  const { view, isAsking, run } = useLineCheck();
  const items = Object.values(view?.items ?? {}).filter(({ controls }) => controls.includes(control));
  const isRunning = view?.run?.state === 'running';
  if (!view || view.plan.state === 'making' || view.plan.state === 'none')
    return <p className="text-ink-soft">Planning the line check …</p>;
  return (
    <>
      {items.length === 0 && (
        <p className="text-ink-soft">
          There is nothing to prove: it sends nothing to a device and shows nothing of one.
        </p>
      )}
      <ul className="grid gap-2">
        {items.map((item) => (
          <li key={item.id} className="grid gap-0.5">
            <span className="flex flex-wrap items-baseline gap-2">
              <StandingWord standing={item.standing} />
              <b>{item.title}</b>
              <span className="text-ink-soft">{kindWords[item.kind]}</span>
            </span>
            <span className="text-ink-soft">
              <VeiledText
                text={item.fault ?? tellingOf(item, item.results, ({ isOld }) => !isOld)?.text ?? item.why ?? ''}
              />
            </span>
          </li>
        ))}
      </ul>
      <p className="flex flex-wrap items-center gap-2.5">
        <Button disabled={isAsking || view.run !== null} onClick={() => void run({ controls: [control], only: 'all' })}>
          {isRunning ? 'Checking …' : 'Check this control'}
        </Button>
        <Link className="underline" href="/line-check">
          To the line check
        </Link>
      </p>
      {view.plan.isOld && (
        <p className="text-ink-soft">The show has changed since. Check it to see where it stands now.</p>
      )}
    </>
  );
}
