'use client';

import { Ellipsis } from 'lucide-react';
import Link from 'next/link';
import { useState } from 'react';
import type { DriverDocument } from '../../core/driver';
import { useDesk, useShow } from '../desk';
import { Button, buttonClass, Menu, tableClass } from '../kit';
import { saveJson } from '../parts';

import { Workbench } from './workbench';

/** What is in the editor. */
interface Opened {
  readonly title: string;
  readonly start: string;
  readonly installed?: string;
}

/** The drivers at hand, and beside them a document in an editor: a new one, one that is there, or a copy. */
export function DriversScreen() {
  const desk = useDesk();
  const { show } = useShow();
  const [word, setWord] = useState('');
  const [opened, setOpened] = useState<Opened>();
  const drivers = (show?.drivers ?? []).filter((driver) => fits(driver, word));
  const usersOf = (id: string) =>
    (show?.records ?? []).flatMap((record) =>
      record.kind === 'device' && record.data.driver === id ? [record.data.tag] : [],
    );
  const titleOf = (driver: DriverDocument) => `${driver.title}, version ${driver.version}`;
  const list = (
    <div className="min-h-0 flex-1 overflow-y-auto pr-3">
      <table className={tableClass}>
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
          {drivers
            .toSorted((a, b) => Number(a.standIn) - Number(b.standIn))
            .map((driver) => {
              const users = usersOf(driver.id);
              const own = show?.installed.includes(driver.id);
              return (
                <tr key={driver.id}>
                  <td>
                    <b>{driver.title}</b>
                    <br />
                    <span className="font-mono text-[13px] text-ink-soft">
                      {driver.id} {driver.version}
                    </span>
                  </td>
                  <td>{driver.role}</td>
                  <td>
                    {driver.link.kind}, {driver.framing.kind}
                  </td>
                  <td>{Object.keys(driver.commands).length}</td>
                  <td>{Object.keys(driver.readings).length}</td>
                  <td>{users.length > 0 ? users.join(', ') : <span className="text-ink-soft">nothing</span>}</td>
                  <td className="text-right whitespace-nowrap [&_[data-slot=button]+[data-slot=button]]:ml-1.5">
                    <Button
                      aria-label={`Open ${driver.title}`}
                      onClick={() =>
                        setOpened({ title: titleOf(driver), start: textOf(driver), installed: textOf(driver) })
                      }
                    >
                      Open
                    </Button>
                    <Menu
                      acts={[
                        {
                          title: 'Duplicate',
                          run: () =>
                            setOpened({
                              title: `Copy of ${driver.title}`,
                              start: textOf({
                                ...driver,
                                id: `${driver.id}-copy`,
                                title: `${driver.title}, copy`,
                                version: 1,
                              }),
                            }),
                        },
                        { title: 'Save as a file', run: () => download(driver) },
                        ...(own ? [{ title: 'Remove driver', run: () => void desk.removeDriver(driver.id) }] : []),
                      ]}
                    >
                      <Button kind="ghost" aria-label={`More for ${driver.title}`}>
                        <Ellipsis size={18} aria-hidden />
                      </Button>
                    </Menu>
                  </td>
                </tr>
              );
            })}
        </tbody>
      </table>
      {show && drivers.length === 0 && (
        <p className="text-ink-soft">
          No driver matches. The drivers called “Any device” can control a device that has none of its own.
        </p>
      )}
    </div>
  );
  return (
    <section
      className="flex h-full min-h-full flex-col px-4 pt-3.5 pb-3 [&>.live-page]:h-auto [&>.live-page]:flex-1"
      aria-labelledby="drivers-title"
    >
      <div className="mb-2.5 flex min-h-9.5 flex-wrap items-center gap-x-3.5 gap-y-2">
        <h1 id="drivers-title">Drivers</h1>
        <p className="text-ink-soft">How the program talks to each kind of device.</p>
        {!opened && (
          <label className="inline-flex items-center gap-1.5 text-ink-soft">
            Find <input type="search" value={word} onChange={(e) => setWord(e.target.value)} />
          </label>
        )}
        <span className="ml-auto flex flex-wrap gap-2">
          <Link className={buttonClass()} href="/rig">
            Back to the rig
          </Link>
          {!opened && (
            <Button kind="strong" onClick={() => setOpened({ title: 'Install a driver', start: '' })}>
              Install a driver
            </Button>
          )}
        </span>
      </div>
      {opened ? <Workbench key={opened.title} {...opened} onDone={() => setOpened(undefined)} /> : list}
    </section>
  );
}

/** A document as people write it. */
const textOf = (driver: DriverDocument): string => JSON.stringify(driver, null, 2);

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
const download = (driver: DriverDocument): void => saveJson(`${driver.id}.json`, textOf(driver));
