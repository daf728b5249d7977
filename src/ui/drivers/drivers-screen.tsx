'use client';

import Link from 'next/link';
import { useState } from 'react';
import type { DriverDocument } from '../../core/driver';
import { useDesk, useShow } from '../desk';
import { Button } from '../parts';
import { InstallDriver } from './install-driver';

/** The drivers at hand, and a way to install one from a document. */
export function DriversScreen() {
  const desk = useDesk();
  const { show } = useShow();
  const [word, setWord] = useState('');
  const [installing, setInstalling] = useState(false);
  const drivers = (show?.drivers ?? []).filter((driver) => fits(driver, word));
  const usersOf = (id: string) =>
    (show?.records ?? []).flatMap((record) =>
      record.kind === 'device' && record.data.driver === id ? [record.data.tag] : [],
    );
  return (
    <section className="screen" aria-labelledby="drivers-title">
      <div className="screen-head">
        <h1 id="drivers-title">Drivers</h1>
        <p className="muted">How the program talks to each kind of device.</p>
        <label className="inline">
          Find <input type="search" value={word} onChange={(e) => setWord(e.target.value)} />
        </label>
        <span className="head-end screen-acts">
          <Link className="btn btn-plain" href="/rig">
            Back to the rig
          </Link>
          <Button kind="strong" aria-expanded={installing} onClick={() => setInstalling(!installing)}>
            Install a driver
          </Button>
        </span>
      </div>
      {installing && <InstallDriver onDone={() => setInstalling(false)} />}
      <table className="drivers">
        <thead>
          <tr>
            <th>Driver</th>
            <th>Role</th>
            <th>Link</th>
            <th>Commands</th>
            <th>Readings</th>
            <th>Used by</th>
            <th>
              <span className="sr-only">Actions</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {drivers.map((driver) => {
            const users = usersOf(driver.id);
            const own = show?.installed.includes(driver.id);
            return (
              <tr key={driver.id}>
                <td>
                  <b>{driver.title}</b>
                  <br />
                  <span className="muted mono">
                    {driver.id} {driver.version}
                  </span>
                </td>
                <td>{driver.role}</td>
                <td>
                  {driver.link.kind}, {driver.framing.kind}
                </td>
                <td>{Object.keys(driver.commands).length}</td>
                <td>{Object.keys(driver.readings).length}</td>
                <td>{users.length > 0 ? users.join(', ') : <span className="muted">nothing</span>}</td>
                <td className="drivers-acts">
                  <Button onClick={() => download(driver)}>Save as a file</Button>
                  {own && <Button onClick={() => void desk.removeDriver(driver.id)}>Remove driver</Button>}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {show && drivers.length === 0 && (
        <p className="muted">
          No driver matches. The drivers called “Any device” can control a device that has none of its own.
        </p>
      )}
    </section>
  );
}

function fits(driver: DriverDocument, word: string): boolean {
  const all = [
    driver.title,
    driver.id,
    driver.role,
    driver.link.kind,
    driver.framing.kind,
    ...Object.values(driver.commands).map(({ title }) => title),
  ];
  return all.join(' ').toLowerCase().includes(word.trim().toLowerCase());
}

/** A driver as a file: the start of one for a device that is nearly alike. */
function download(driver: DriverDocument): void {
  const url = URL.createObjectURL(new Blob([JSON.stringify(driver, null, 2)], { type: 'application/json' }));
  const link = document.createElement('a');
  link.href = url;
  link.download = `${driver.id}.json`;
  link.click();
  URL.revokeObjectURL(url);
}
