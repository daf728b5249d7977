'use client';

import { useState } from 'react';
import { tallyPanel } from '../../core/live';
import { inNumberOrder } from '../../core/number-order';
import { wordOf, type TallyWord } from '../../core/tally';
import { Button, buttonClass } from '../kit';
import { useScreens, useTally } from '../live';
import { JoinPart } from './join-part';

const words: Readonly<Record<TallyWord, string>> = {
  onAir: 'on air',
  next: 'next',
  clear: 'off air',
  unknown: 'not known',
};
const looks: Readonly<Record<TallyWord, string>> = {
  onAir: 'bg-on-air px-1.5 font-semibold text-on-air-ink',
  next: 'bg-next px-1.5 font-semibold text-next-ink',
  clear: 'text-ink-soft',
  unknown: 'hatch-fine px-1.5 font-semibold',
};

/** Every camera whose tally a phone can show, with the phones that do, and the way in for another. */
export function TallyPart() {
  const tally = useTally();
  const screens = Object.values(useScreens() ?? {});
  const [open, setOpen] = useState<string>();
  const devices = Object.values(tally?.devices ?? {}).sort((a, b) => inNumberOrder(a.tag, b.tag));
  if (devices.length === 0) return null;
  return (
    <section aria-labelledby="tally-title" className="mt-7">
      <h2 id="tally-title">Tally phones</h2>
      <p className="text-ink-soft">
        A phone behind a camera shows over its whole screen whether that camera is on air.
      </p>
      <ul className="mt-2">
        {devices.map((device) => {
          const word = wordOf(device);
          const phones = screens.filter((screen) => screen.tally === device.tag).length;
          return (
            <li key={device.tag} aria-label={`Tally of ${device.tag}`} className="border-b border-rule py-1">
              <div className="grid grid-cols-[64px_minmax(0,1fr)_96px_minmax(0,160px)_auto] items-center gap-x-4">
                <span className="font-mono font-semibold">{device.tag}</span>
                <span className="truncate">{device.name}</span>
                <span>
                  <span className={looks[word]}>{words[word]}</span>
                </span>
                <span className="text-ink-soft">
                  {phones === 0 ? 'no phone' : phones === 1 ? '1 phone' : `${phones} phones`}
                </span>
                <span className="flex gap-2">
                  <a className={buttonClass({ kind: 'ghost' })} href={`/panel/tally/${device.tag}`} target="_blank">
                    Open
                  </a>
                  <Button
                    kind="ghost"
                    aria-expanded={open === device.tag}
                    onClick={() => setOpen(open === device.tag ? undefined : device.tag)}
                  >
                    Let a phone join
                  </Button>
                </span>
              </div>
              {open === device.tag && (
                <JoinPart
                  panel={tallyPanel}
                  query={`?tally=${device.tag}`}
                  rights="The phone then shows tally only; it has no controls."
                />
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
