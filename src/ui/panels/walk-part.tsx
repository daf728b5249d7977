'use client';

import { useState } from 'react';
import { walkPanel } from '../../core/live';
import { Button, buttonClass } from '../kit';
import { useWalkRound } from '../live';
import { JoinPart } from './join-part';

/** The way in for the phone of somebody who walks round the devices and answers the questions of the line check. */
export function WalkPart() {
  const questions = Object.values(useWalkRound()?.questions ?? {});
  const [isOpen, setOpen] = useState(false);
  if (questions.length === 0) return null;
  const open = questions.filter(({ isDone }) => !isDone).length;
  return (
    <section aria-labelledby="walk-title" className="mt-7">
      <h2 id="walk-title">Walk-round phones</h2>
      <ul className="mt-2">
        <li aria-label="Walk-round" className="border-b border-rule py-1">
          <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
            <p className="min-w-0 flex-1 text-ink-soft">
              A phone that shows the questions of the line check and nothing else.{' '}
              {open === 0 ? 'All are answered.' : open === 1 ? '1 is open.' : `${open} are open.`}
            </p>
            <a className={buttonClass({ kind: 'ghost' })} href="/panel/walk" target="_blank">
              Open
            </a>
            <Button kind="ghost" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
              Let a phone join
            </Button>
          </div>
          {isOpen && (
            <JoinPart
              panel={walkPanel}
              query="?for=walk"
              rights="That phone can then answer the questions of the line check, and nothing else."
            />
          )}
        </li>
      </ul>
    </section>
  );
}
