'use client';

import { isWell } from '../../core/session';
import { useStatus } from '../live';
import { LinkWord } from '../parts';

/** The state of the links on a panel: what is well is a number, what is not is named. */
export function LinkStrip() {
  const status = useStatus();
  const devices = Object.entries(status?.devices ?? {});
  const unwell = devices
    .filter(([, { link }]) => !isWell(link.word))
    .sort(([, a], [, b]) => a.tag.localeCompare(b.tag, 'en', { numeric: true }));
  return (
    <ul className="links" aria-label="Links">
      {status && devices.length === 0 && <li className="muted">No devices in the rig yet.</li>}
      {unwell.map(([id, device]) => (
        <li key={id}>
          <span className="tag">{device.tag}</span> <LinkWord link={device.link} />
        </li>
      ))}
      {devices.length > 0 && (
        <li className="muted">
          {devices.length - unwell.length} of {devices.length} up
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
    <span className="muted aim-live">aim live</span>
  );
}
