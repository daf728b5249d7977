'use client';

import { useState } from 'react';
import { startersOf } from '../../core/driver';
import type { ReadingsView } from '../../core/live';
import { startOf, startOfStarter, type DeskView } from '../../core/show';
import { driverOfDevice } from '../desk';

type Start = ReturnType<typeof startOf>;

interface Props {
  readonly show: DeskView;
  readonly readings: ReadonlyMap<string, ReadingsView>;
  /** The device that this page is mostly about. */
  readonly usual: string | undefined;
  readonly onPick: (title: string, start: Start) => void;
}

/** What the new button shall do: the starters of a device by purpose, one for each item of its lists, and its commands. */
export function AddPane({ show, readings, usual, onPick }: Props) {
  const devices = show.records
    .filter((record) => record.kind === 'device')
    .sort((a, b) => a.data.tag.localeCompare(b.data.tag, 'en', { numeric: true }));
  const [chosen, setChosen] = useState(usual ?? devices[0]?.id ?? '');
  const driver = driverOfDevice(show, chosen);
  const values = Object.fromEntries(Object.entries(readings.get(chosen) ?? {}).map(([key, { value }]) => [key, value]));
  const starters = driver ? startersOf(driver, values) : [];
  const purposes = [...new Set(starters.map(({ purpose }) => purpose))];
  return (
    <>
      <h2>New button</h2>
      <p className="muted">What shall it do? Label and lamp come with it and can be changed afterwards.</p>
      {devices.length === 0 && <p>There is no device in the rig yet. Patch one first.</p>}
      {devices.length > 0 && (
        <div className="form">
          <label>
            Device
            <select value={chosen} onChange={(event) => setChosen(event.target.value)}>
              {devices.map(({ id, data }) => (
                <option key={id} value={id}>
                  {data.tag} {data.name}
                </option>
              ))}
            </select>
          </label>
        </div>
      )}
      {!driver && devices.length > 0 && <p>The driver of this device is not installed here.</p>}
      {driver && (
        <>
          {purposes.map((purpose) => (
            <div key={purpose}>
              <h3 className="device-sub">{purpose}</h3>
              <ul className="starters">
                {starters
                  .filter((starter) => starter.purpose === purpose)
                  .map((starter, n) => (
                    <li key={n}>
                      <button type="button" onClick={() => onPick(starter.title, startOfStarter(chosen, starter))}>
                        {starter.title}
                        {starter.held && <span className="muted"> held</span>}
                      </button>
                    </li>
                  ))}
              </ul>
            </div>
          ))}
          <h3 className="device-sub">Commands</h3>
          <ul className="picks">
            {Object.entries(driver.commands).map(([id, command]) => (
              <li key={id}>
                <button type="button" onClick={() => onPick(command.title, startOf(driver, chosen, id))}>
                  <b>
                    {command.title}
                    {command.risky && <span className="muted"> guarded</span>}
                  </b>
                  <span className="muted">{command.help}</span>
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}
