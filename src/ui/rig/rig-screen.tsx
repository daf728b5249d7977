'use client';

import { useState } from 'react';
import type { DeviceRecord } from '../../core/show';
import { useShow } from '../desk';
import { useNow, useStatus } from '../live';
import { ageText, Button, linkAdvice, LinkWord } from '../parts';
import { DevicePane } from './device-pane';
import { ReadingsPane } from './readings-pane';

/** The rig: every device with its address, its link and what it reports. */
export function RigScreen() {
  const { show, failed } = useShow();
  const status = useStatus();
  const now = useNow();
  const [editing, setEditing] = useState<string>();
  const devices = (show?.records ?? []).filter((record): record is DeviceRecord => record.kind === 'device');
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
        {status?.standinPages && (
          <a className="btn btn-plain head-end" href={status.standinPages} target="_blank" rel="noreferrer">
            Stand-ins’ own pages
          </a>
        )}
      </div>
      {show && devices.length === 0 && (
        <p>No devices yet. A device is one thing that is controlled: a switcher, a camera, an encoder.</p>
      )}
      {devices.map((device) => {
        const live = status?.devices[device.id];
        const driver = show?.drivers.find(({ id }) => id === device.data.driver);
        const advice = live && linkAdvice(live.link);
        return (
          <article key={device.id} className="device" aria-labelledby={`${device.id}-name`}>
            <header className="device-head">
              <span className="tag">{device.data.tag}</span>
              <h2 id={`${device.id}-name`}>{device.data.name}</h2>
              <span className="muted">{device.data.role}</span>
              <span className="device-link">
                {live ? <LinkWord link={live.link} /> : <span className="muted">not in service</span>}
                {live && now > 0 && <span className="muted"> for {ageText(now - live.since)}</span>}
              </span>
              <Button
                aria-expanded={editing === device.id}
                onClick={() => setEditing(editing === device.id ? undefined : device.id)}
              >
                Change
              </Button>
            </header>
            {advice && <p className="device-advice">{advice}</p>}
            <dl className="facts">
              <div>
                <dt>Address</dt>
                <dd className="mono">
                  {device.data.host}:{device.data.port}
                </dd>
              </div>
              <div>
                <dt>Driver</dt>
                <dd>{driver?.title ?? `${device.data.driver} (not installed here)`}</dd>
              </div>
              <div>
                <dt>Site</dt>
                <dd>{device.data.site || '–'}</dd>
              </div>
              <div>
                <dt>Used by</dt>
                <dd>{usesOf(show?.records ?? [], device.id)}</dd>
              </div>
            </dl>
            {editing === device.id && (
              <DevicePane
                key={device.version}
                device={device}
                help={driver?.help}
                onDone={() => setEditing(undefined)}
              />
            )}
            <ReadingsPane device={device.id} driver={driver} />
          </article>
        );
      })}
    </section>
  );
}

function usesOf(records: readonly { readonly kind: string; readonly data: unknown }[], device: string): string {
  const users = records.filter(
    (record) => record.kind === 'control' && JSON.stringify(record.data).includes(`"${device}"`),
  ).length;
  return users === 0 ? 'nothing yet' : users === 1 ? '1 control' : `${users} controls`;
}
