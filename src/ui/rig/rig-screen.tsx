'use client';

import Link from 'next/link';
import { useState } from 'react';
import type { DeviceRecord } from '../../core/show';
import { useShow } from '../desk';
import { useStatus } from '../live';
import { Button } from '../parts';
import { AddDevice } from './add-device';
import { DeviceRow, type RowView } from './device-row';

/** The rig: every device with its address, its link and its grades, and what it reports. */
export function RigScreen() {
  const { show, failed } = useShow();
  const status = useStatus();
  const [open, setOpen] = useState<{ readonly device: string; readonly view: RowView }>();
  const [adding, setAdding] = useState(false);
  const devices = (show?.records ?? [])
    .filter((record): record is DeviceRecord => record.kind === 'device')
    .sort((a, b) => a.data.tag.localeCompare(b.data.tag, 'en', { numeric: true }));
  return (
    <section className="screen" aria-labelledby="rig-title">
      <div className="screen-head">
        <h1 id="rig-title">Rig</h1>
        <p className="muted">
          {show
            ? devices.length === 1
              ? '1 device'
              : `${devices.length} devices`
            : failed
              ? 'The show could not be read.'
              : 'Fetching the show …'}
        </p>
        <span className="head-end screen-acts">
          {status?.standinPages && (
            <a className="btn btn-plain" href={status.standinPages} target="_blank" rel="noreferrer">
              Stand-ins’ own pages
            </a>
          )}
          <Link className="btn btn-plain" href="/drivers">
            Drivers
          </Link>
          <Button kind="strong" aria-expanded={adding} onClick={() => setAdding(!adding)}>
            Add a device
          </Button>
        </span>
      </div>
      {show && adding && <AddDevice show={show} onDone={() => setAdding(false)} />}
      {show && devices.length === 0 && (
        <p>No devices yet. A device is one thing that is controlled: a switcher, a camera, an encoder.</p>
      )}
      {show &&
        devices.map((device) => (
          <DeviceRow
            key={device.id}
            show={show}
            device={device}
            live={status?.devices[device.id]}
            open={open?.device === device.id ? open.view : undefined}
            onOpen={(view) => setOpen(view === undefined ? undefined : { device: device.id, view })}
          />
        ))}
    </section>
  );
}
