'use client';

import { inNumberOrder } from '../../core/number-order';
import { isWell } from '../../core/session';
import { useStatus } from '../live';
import { LinkWord } from '../parts';

/** The state of the links on a panel: what is well is a number, what is not is named. */
export function LinkStrip() {
  const status = useStatus();
  const devices = Object.entries(status?.devices ?? {});
  const unwell = devices
    .filter(([, { link }]) => !isWell(link.word))
    .sort(([, a], [, b]) => inNumberOrder(a.tag, b.tag));
  return (
    <ul
      className="flex max-w-[45%] min-w-0 flex-[0_1_auto] flex-wrap gap-x-4 gap-y-1 max-[600px]:max-w-[40vw] max-[600px]:flex-nowrap max-[600px]:overflow-hidden max-[600px]:text-[13px] max-[600px]:whitespace-nowrap"
      aria-label="Links"
    >
      {status && devices.length === 0 && <li className="text-ink-soft">No devices in the rig yet.</li>}
      {unwell.map(([id, device]) => (
        <li key={id}>
          <span className="font-mono text-[0.93em] font-semibold">{device.tag}</span> <LinkWord link={device.link} />
        </li>
      ))}
      {devices.length > 0 && (
        <li className="text-ink-soft">
          {devices.length - unwell.length} of {devices.length} up
        </li>
      )}
    </ul>
  );
}

/** The aim as a word, for panels, which cannot change it. */
export function AimWord() {
  const aim = useStatus()?.aim;
  if (aim === 'rehearse')
    return <span className="bg-warning px-2 py-0.5 font-bold text-warning-ink">REHEARSE · stand-ins, no device</span>;
  return aim === 'dry' ? (
    <span className="bg-warning px-2 py-0.5 font-bold text-warning-ink">DRY · nothing is sent</span>
  ) : (
    <span className="text-ink-soft max-[600px]:hidden">aim live</span>
  );
}
