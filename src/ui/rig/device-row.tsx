'use client';

import Link from 'next/link';
import { memo, useEffect, useRef } from 'react';
import { DropdownMenu } from 'radix-ui';
import { resultOf, type Mend } from '../../core/diagnosis';
import type { DeviceStatus } from '../../core/live';
import {
  duplicateDeviceEdit,
  usersOfDevice,
  usersText,
  type DeskView,
  type DeviceRecord,
  type DeviceUses,
} from '../../core/show';
import { driverOfDevice, useDesk } from '../desk';
import { useLive } from '../live';
import { Button, linkAdvice, LinkWord, VeiledText, newId } from '../parts';
import { DevicePane } from './device-pane';
import { GradeMarks } from './grade-marks';
import { OwnCommands } from './own-commands';
import { LastWord, PulseLine, type PulseStore } from './pulse-line';
import { ReadingsPane } from './readings-pane';
import { TestPane, TestWord } from './test-pane';
import { DisplaysPane } from './displays-pane';
import { feedsText, hasInputs, TiesPane } from './ties-pane';
import { TryPane } from './try-pane';
import type { DeviceTest } from './use-test';

export type RowView = 'change' | 'readings' | 'own' | 'try' | 'test' | 'ties' | 'displays' | undefined;

interface Props {
  readonly show: DeskView;
  readonly device: DeviceRecord;
  readonly live: DeviceStatus | undefined;
  readonly pulses: PulseStore;
  readonly test: DeviceTest | undefined;
  readonly good: { readonly tag: string; readonly test: DeviceTest } | undefined;
  readonly conflict: string | undefined;
  /** What uses it and what it uses, in a few words. */
  readonly uses: DeviceUses | undefined;
  readonly chosen: boolean;
  readonly open: RowView;
  readonly onOpen: (device: string, view: RowView) => void;
  readonly onChoose: (device: string) => void;
  readonly onTest: (device: DeviceRecord) => void;
  readonly onFind: () => void;
}

/** One device of the rig: a line with its link, and what is opened below it. */
export const DeviceRow = memo(function DeviceRow(props: Props) {
  const { show, device, live, pulses, test, good, conflict, uses, chosen, open, onOpen, onChoose, onTest, onFind } =
    props;
  const desk = useDesk();
  const client = useLive();
  const { data, id } = device;
  const box = useRef<HTMLElement>(null);
  useEffect(() => {
    // What is opened at the lower edge would open out of sight.
    if (open !== undefined) box.current?.scrollIntoView({ block: 'nearest' });
  }, [open]);
  const driver = driverOfDevice(show, id);
  const advice = live && linkAdvice(live.link);
  const testedWell =
    test &&
    resultOf(
      test.stages.map(({ verdict }) => verdict),
      test.done,
    ) === 'passed';
  const showsTest = test !== undefined && !testedWell && open !== 'test';
  const said = advice ?? live?.remark;
  const toggle = (view: RowView) => onOpen(id, open === view ? undefined : view);
  const waits = live?.link.word === 'locked out' || live?.link.word === 'down';
  const update = (title: string, change: Partial<DeviceRecord['data']>) =>
    desk.edit({ title, changes: [{ op: 'update', from: device, to: { ...device, data: { ...data, ...change } } }] });
  const mend = (each: Mend) => {
    if (each.do === 'port') void update(`${data.tag}: port ${each.port}`, { port: each.port });
    else if (each.do === 'driver') void update(`${data.tag}: another driver`, { driver: each.driver, options: {} });
    else if (each.do === 'option')
      void update(`${data.tag}: ${each.title}`, { options: { ...data.options, [each.name]: each.value } });
    else if (each.do === 'enable') void update(`Switch ${data.tag} on`, { enabled: true });
    else onFind();
  };
  const views: readonly { readonly view: Exclude<RowView, undefined>; readonly title: string }[] = [
    { view: 'try', title: 'Try' },
    { view: 'readings', title: 'Readings' },
    { view: 'change', title: 'Change' },
  ];
  return (
    <article ref={box} className={`device ${open ? 'device-open' : ''}`} aria-labelledby={`${id}-name`}>
      <header className="device-head">
        <input type="checkbox" checked={chosen} onChange={() => onChoose(id)} aria-label={`Choose ${data.tag}`} />
        <span className="tag">{data.tag}</span>
        <span className="device-who">
          <h2 id={`${id}-name`}>{data.name}</h2>
          <span className="muted device-role">
            {data.role} · {driver?.title ?? data.driver}
          </span>
        </span>
        <span className="device-where">
          <span className="mono device-address" data-veil>
            {data.through
              ? `${live?.through ?? '?'} : ${data.port}`
              : data.host === ''
                ? 'no address'
                : `${data.host}:${data.port}`}
          </span>
          <UsesLine tag={data.tag} uses={uses} />
        </span>
        <span className="device-link">
          {live && <GradeMarks grades={live.grades} />}
          {live ? <LinkWord link={live.link} /> : <span className="muted">not in service</span>}{' '}
          <span className="muted device-since">
            <LastWord store={pulses} device={id} since={live?.since} />
            {live?.link.word === 'up' && live.firmware && ` · firmware ${live.firmware}`}
          </span>
        </span>
        <PulseLine store={pulses} device={id} />
        <span className="device-acts">
          <span className="device-tested">{testedWell && '✓ passed'}</span>
          <Button
            kind="ghost"
            aria-expanded={open === 'test'}
            onClick={() => (open === 'test' ? toggle('test') : onTest(device))}
          >
            Test
          </Button>
          {views.map(({ view, title }) => (
            <Button key={view} kind="ghost" aria-expanded={open === view} onClick={() => toggle(view)}>
              {title}
            </Button>
          ))}
          <More
            tag={data.tag}
            items={[
              { title: 'Own commands', run: () => toggle('own') },
              ...(hasInputs(driver) ? [{ title: 'Sources of its inputs', run: () => toggle('ties') }] : []),
              ...(driver?.displays ? [{ title: 'What its displays show', run: () => toggle('displays') }] : []),
              {
                title: data.enabled ? 'Switch off' : 'Switch on',
                run: () => void update(`Switch ${data.tag} ${data.enabled ? 'off' : 'on'}`, { enabled: !data.enabled }),
              },
              {
                title: 'Duplicate',
                run: () => void desk.edit(duplicateDeviceEdit(device, show.records, newId('dev'))),
              },
            ]}
          />
        </span>
      </header>
      {conflict && (
        <p className="device-advice">
          ✕ <VeiledText text={conflict} />
        </p>
      )}
      {(said !== undefined || showsTest) && (
        <div className="device-advice">
          {said !== undefined && <VeiledText text={said} />}
          {waits && <Button onClick={() => client.callAgain(id)}>Call again now</Button>}
          {showsTest && (
            <>
              {(said === undefined || !test.done) && <TestWord test={test} />}
              <Button onClick={() => toggle('test')}>Show the test</Button>
            </>
          )}
        </div>
      )}
      {(open === 'readings' || open === 'change') && (
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
              <dd>{usersText(usersOfDevice(show.records, id)) || 'nothing yet'}</dd>
            </div>
            <div>
              <dt>Feeds</dt>
              <dd>{feedsText(show, id) ?? '–'}</dd>
            </div>
          </dl>
          {live && <GradeMarks grades={live.grades} wordy />}
        </>
      )}
      {open === 'change' && (
        <DevicePane
          key={device.version}
          show={show}
          device={device}
          onDone={() => onOpen(id, undefined)}
          onFind={onFind}
        />
      )}
      {open === 'own' && driver && <OwnCommands device={device} driver={driver} />}
      {open === 'try' && driver && <TryPane key={data.driver} show={show} device={device} driver={driver} />}
      {open === 'ties' && driver && <TiesPane show={show} device={device} driver={driver} />}
      {open === 'displays' && driver && <DisplaysPane show={show} device={device} driver={driver} />}
      {open === 'test' && test && <TestPane test={test} good={good} onMend={mend} />}
      {open === 'readings' && <ReadingsPane device={id} driver={driver} />}
    </article>
  );
});

interface MoreProps {
  readonly tag: string;
  readonly items: readonly { readonly title: string; readonly run: () => void }[];
}

function More({ tag, items }: MoreProps) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="btn btn-ghost" aria-label={`More for ${tag}`}>
        …
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu" align="end" sideOffset={4}>
          {items.map(({ title, run }) => (
            <DropdownMenu.Item key={title} className="menu-item" onSelect={run}>
              {title}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** What uses a device and what it uses; its controls are a way to the pages, where they are found. */
function UsesLine({ tag, uses }: { readonly tag: string; readonly uses: DeviceUses | undefined }) {
  if (!uses) return <span className="muted device-role">used by nothing yet</span>;
  const others = uses.others.join(' · ');
  return (
    <span className="muted device-role" title={[uses.controls, others].filter(Boolean).join(' · ')}>
      {uses.controls && (
        <Link href={`/pages?edit=1&find=${tag}`} aria-label={`${uses.controls} with ${tag}: find them on the pages`}>
          {uses.controls}
        </Link>
      )}
      {uses.controls && others && ' · '}
      {others}
    </span>
  );
}
