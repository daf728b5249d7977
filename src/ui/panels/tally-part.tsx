'use client';

import { tallyPanel } from '../../core/live';
import { inNumberOrder } from '../../core/number-order';
import { wordOf, type TallyWord } from '../../core/tally';
import { useScreens, useTally } from '../live';
import { PurposeList } from './purpose-list';

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
  const devices = Object.values(tally?.devices ?? {}).sort((a, b) => inNumberOrder(a.tag, b.tag));
  return (
    <PurposeList
      title="Tally phones"
      about="A phone behind a camera shows over its whole screen whether that camera is on air."
      shows="tally"
      panel={tallyPanel}
      noun="phone"
      rights="The phone then shows tally only; it has no controls."
      rows={devices.map((device) => ({
        tag: device.tag,
        name: device.name,
        word: <span className={looks[wordOf(device)]}>{words[wordOf(device)]}</span>,
        screens: screens.filter((screen) => screen.tally === device.tag).length,
      }))}
    />
  );
}
