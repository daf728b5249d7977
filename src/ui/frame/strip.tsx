'use client';

import { isWell } from '../../core/session';
import { useStatus } from '../live';
import { LinkWord } from '../parts';

/** The state of every link, on every screen. */
export function LinkStrip() {
  const status = useStatus();
  const devices = Object.entries(status?.devices ?? {}).sort(([, a], [, b]) => a.tag.localeCompare(b.tag));
  const well = devices.filter(([, { link }]) => isWell(link.word)).length;
  return (
    <ul className="links" aria-label="Links">
      {status && devices.length === 0 && <li className="muted">No devices in the rig yet.</li>}
      {devices.map(([id, device]) => (
        <li key={id} data-well={isWell(device.link.word) || undefined}>
          <span className="tag">{device.tag}</span> <LinkWord link={device.link} />
        </li>
      ))}
      {well > 0 && (
        <li className="links-well">
          {well} of {devices.length} up
        </li>
      )}
    </ul>
  );
}

/** The aim as a word, for panels, which cannot change it. */
export function AimWord() {
  const aim = useStatus()?.aim;
  if (aim === 'rehearse') return <span className="aim-word">REHEARSE · stand-ins, no device</span>;
  return aim === 'dry' ? (
    <span className="aim-word">DRY · nothing is sent</span>
  ) : (
    <span className="muted">aim live</span>
  );
}
