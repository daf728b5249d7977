'use client';

import type { DeskView } from '../../core/show';
import { driverOfDevice } from '../desk';

interface Props {
  readonly show: DeskView;
  readonly onPick: (device: string, driver: DeskView['drivers'][number], command: string) => void;
}

/** What the new button shall do: every command of every device in the rig. */
export function AddPane({ show, onPick }: Props) {
  const devices = show.records.filter((record) => record.kind === 'device');
  return (
    <>
      <h2>New button</h2>
      <p className="muted">What shall it do? Label and lamp come with the command and can be changed afterwards.</p>
      {devices.length === 0 && <p>There is no device in the rig yet. Patch one first.</p>}
      {devices.map((device) => {
        const driver = driverOfDevice(show, device.id);
        if (!driver) return null;
        return (
          <div key={device.id}>
            <h3>
              <span className="tag">{device.data.tag}</span> {device.data.name}
            </h3>
            <ul className="picks">
              {Object.entries(driver.commands).map(([id, command]) => (
                <li key={id}>
                  <button type="button" onClick={() => onPick(device.id, driver, id)}>
                    <b>{command.title}</b>
                    <span className="muted">{command.help}</span>
                  </button>
                </li>
              ))}
            </ul>
          </div>
        );
      })}
    </>
  );
}
