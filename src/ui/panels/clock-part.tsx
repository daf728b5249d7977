'use client';

import { clockPanel } from '../../core/live';
import { inNumberOrder } from '../../core/number-order';
import { useClocks, useScreens } from '../live';
import { PurposeList } from './purpose-list';

/** Every clock that a screen can show all over, with the screens that do, and the way in for another. */
export function ClockPart() {
  const screens = Object.values(useScreens() ?? {});
  const clocks = Object.values(useClocks() ?? {}).sort((a, b) => inNumberOrder(a.tag, b.tag));
  return (
    <PurposeList
      title="Clock screens"
      about="A screen in front of a speaker, or a phone, shows the time that is left, the message and who comes next."
      shows="clock"
      panel={clockPanel}
      noun="screen"
      rights="That screen then shows clocks only; it has no controls."
      rows={clocks.map(({ tag, device, name, phase, freshness }) => ({
        tag,
        name: device,
        word: freshness === 'fresh' ? `${phase}${name === '' ? '' : `: ${name}`}` : 'not known',
        screens: screens.filter((screen) => screen.clock === tag).length,
      }))}
    />
  );
}
