'use client';

import type { DeviceStatus } from '../../core/live';
import type { DeskView, DeviceRecord } from '../../core/show';
import { driverOfDevice } from '../desk';
import { useLive, useNow } from '../live';
import { ageText, Button, linkAdvice, LinkWord } from '../parts';
import { DevicePane } from './device-pane';
import { GradeMarks } from './grade-marks';
import { OwnCommands } from './own-commands';
import { ReadingsPane } from './readings-pane';

export type RowView = 'change' | 'readings' | 'own' | undefined;

interface Props {
  readonly show: DeskView;
  readonly device: DeviceRecord;
  readonly live: DeviceStatus | undefined;
  readonly open: RowView;
  readonly onOpen: (view: RowView) => void;
}

/** One device of the rig: a line with its link, and what is opened below it. */
export function DeviceRow({ show, device, live, open, onOpen }: Props) {
  const client = useLive();
  const now = useNow();
  const { data } = device;
  const driver = driverOfDevice(show, device.id);
  const advice = live && linkAdvice(live.link);
  const toggle = (view: RowView) => onOpen(open === view ? undefined : view);
  const waits = live?.link.word === 'locked out' || live?.link.word === 'down';
  return (
    <article className="device" aria-labelledby={`${device.id}-name`}>
      <header className="device-head">
        <span className="tag">{data.tag}</span>
        <h2 id={`${device.id}-name`}>{data.name}</h2>
        <span className="muted device-role">{data.role}</span>
        <span className="mono device-address">
          {data.through ? `${live?.through ?? '?'} : ${data.port}` : `${data.host}:${data.port}`}
        </span>
        {live && <GradeMarks grades={live.grades} />}
        <span className="device-link">
          {live ? <LinkWord link={live.link} /> : <span className="muted">not in service</span>}
          {live && now > 0 && <span className="muted"> for {ageText(now - live.since)}</span>}
        </span>
        <span className="device-acts">
          <Button aria-expanded={open === 'readings'} onClick={() => toggle('readings')}>
            Readings
          </Button>
          <Button aria-expanded={open === 'own'} onClick={() => toggle('own')}>
            Own commands
          </Button>
          <Button aria-expanded={open === 'change'} onClick={() => toggle('change')}>
            Change
          </Button>
        </span>
      </header>
      {(advice || live?.remark) && (
        <p className="device-advice">
          {advice ?? live?.remark}{' '}
          {waits && <Button onClick={() => client.callAgain(device.id)}>Call again now</Button>}
        </p>
      )}
      {open !== undefined && (
        <>
          <dl className="facts">
            <div>
              <dt>Driver</dt>
              <dd>{driver?.title ?? `${data.driver} (not installed here)`}</dd>
            </div>
            <div>
              <dt>Site</dt>
              <dd>{data.site || '–'}</dd>
            </div>
            <div>
              <dt>Used by</dt>
              <dd>{usesOf(show, device.id)}</dd>
            </div>
          </dl>
          {live && <GradeMarks grades={live.grades} wordy />}
        </>
      )}
      {open === 'change' && (
        <DevicePane key={device.version} show={show} device={device} onDone={() => onOpen(undefined)} />
      )}
      {open === 'own' && driver && <OwnCommands device={device} driver={driver} />}
      {open === 'readings' && <ReadingsPane device={device.id} driver={driver} />}
    </article>
  );
}

function usesOf({ records }: DeskView, device: string): string {
  const users = records.filter(
    (record) => record.kind === 'control' && JSON.stringify(record.data).includes(`"${device}"`),
  ).length;
  return users === 0 ? 'nothing yet' : users === 1 ? '1 control' : `${users} controls`;
}
