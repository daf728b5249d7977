'use client';

import { Ellipsis, X } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { mendEdit, type Mend } from '../../core/diagnosis';
import type { DeviceStatus } from '../../core/live';
import { duplicateDeviceEdit, type DeskView, type DeviceRecord, type DeviceUses } from '../../core/show';
import { driverOfDevice, useDesk } from '../desk';
import { Button, Menu, Tabs } from '../kit';
import { useLive } from '../live';
import { LinkWord, newId, VeiledText } from '../parts';
import { DisplaysPane } from './displays-pane';
import { HelperLights } from './helper-lights';
import { GradeMarks } from './grade-marks';
import { OwnAdditions } from './own';
import { LastWord, type PulseStore } from './pulse-line';
import { MovedNote } from './moved-note';
import { needsOf } from './rig-order';
import { ReadingsPane } from './readings-pane';
import { SettingsTab } from './settings-tab';
import { SteeringPane } from './steering-pane';
import { TestPane } from './test-pane';
import { canCompare, UnusedTest } from './unused-test';
import { hasInputs, TiesPane } from './ties-pane';
import { TimersPane } from './timers-pane';
import { TryPane } from './try-pane';
import type { DeviceTest } from './use-test';
import { UsedByTab } from './used-by-tab';
import { WireTab } from './wire-tab';

export type DeviceTab =
  | 'test'
  | 'try'
  | 'readings'
  | 'settings'
  | 'steering'
  | 'commands'
  | 'sources'
  | 'displays'
  | 'timers'
  | 'wire'
  | 'uses';

interface Props {
  readonly show: DeskView;
  readonly device: DeviceRecord;
  readonly live: DeviceStatus | undefined;
  readonly pulses: PulseStore;
  readonly test: DeviceTest | undefined;
  /** A device of the same driver whose test passed. */
  readonly good: { readonly tag: string; readonly test: DeviceTest } | undefined;
  readonly uses: DeviceUses | undefined;
  readonly tab: DeviceTab;
  readonly onTab: (tab: DeviceTab) => void;
  readonly onTest: (device: DeviceRecord) => void;
  readonly onFind: () => void;
  readonly onClose: () => void;
}

/** Everything about one device, beside the list. */
export function DeviceDetails(props: Props) {
  const { show, device, live, pulses, test, good, uses, tab, onTab, onTest, onFind, onClose } = props;
  const desk = useDesk();
  const client = useLive();
  const router = useRouter();
  const { data, id } = device;
  const driver = driverOfDevice(show, id);
  const { advice, canCallAgain } = needsOf(live);
  const update = (title: string, change: Partial<DeviceRecord['data']>) =>
    void desk.edit({
      title,
      changes: [{ op: 'update', from: device, to: { ...device, data: { ...data, ...change } } }],
    });
  const mend = (each: Mend) => {
    const edit = mendEdit(device, each);
    if (edit) void desk.edit(edit);
    else onFind();
  };
  const tabs: readonly { readonly id: DeviceTab; readonly title: string }[] = [
    { id: 'test', title: 'Test' },
    ...(driver ? [{ id: 'try' as const, title: 'Try' }] : []),
    { id: 'readings', title: 'Readings' },
    { id: 'settings', title: 'Settings' },
    ...(driver ? [{ id: 'commands' as const, title: 'Commands' }] : []),
    ...(hasInputs(driver) ? [{ id: 'sources' as const, title: 'Sources' }] : []),
    ...(Object.keys(driver?.drives ?? {}).length > 0 ? [{ id: 'steering' as const, title: 'Steering' }] : []),
    ...(driver?.displays ? [{ id: 'displays' as const, title: 'Displays' }] : []),
    ...(driver?.link.service === 'timers' ? [{ id: 'timers' as const, title: 'Timers' }] : []),
    { id: 'wire', title: 'Wire' },
    { id: 'uses', title: 'Used by' },
  ];
  const shown = tabs.some((each) => each.id === tab) ? tab : 'test';
  return (
    <article className="flex h-full min-h-0 flex-col" aria-labelledby={`${id}-name`}>
      <header className="grid gap-1 px-4 pt-3 pb-2">
        <div className="flex items-center gap-3">
          <span className="font-mono text-[0.93em] font-semibold">{data.tag}</span>
          <h2 id={`${id}-name`} className="min-w-0 truncate">
            {data.name}
          </h2>
          <span className="ml-auto flex shrink-0">
            <Menu
              acts={[
                {
                  title: data.enabled ? 'Switch off' : 'Switch on',
                  run: () => update(`Switch ${data.tag} ${data.enabled ? 'off' : 'on'}`, { enabled: !data.enabled }),
                },
                {
                  title: 'Duplicate',
                  run: () => void desk.edit(duplicateDeviceEdit(device, show.records, newId('dev'))),
                },
                ...(Object.keys(driver?.keeps ?? {}).length > 0
                  ? [{ title: 'Take snapshot …', run: () => router.push(`/snapshots?take=${id}`) }]
                  : []),
              ]}
            >
              <Button kind="ghost" aria-label={`More for ${data.tag}`}>
                <Ellipsis aria-hidden className="size-4" />
              </Button>
            </Menu>
            <Button kind="ghost" aria-label="Close details" onClick={onClose}>
              <X aria-hidden className="size-4" />
            </Button>
          </span>
        </div>
        <div className="device-link flex flex-wrap items-center gap-x-3 gap-y-1 text-[14px]">
          {live && <GradeMarks grades={live.grades} />}
          {live ? <LinkWord link={live.link} /> : <span className="text-ink-soft">not in service</span>}{' '}
          <span className="text-ink-soft">
            <LastWord store={pulses} device={id} since={live?.since} />
            {live?.link.word === 'up' && live.firmware && ` · firmware ${live.firmware}`}
          </span>
          <HelperLights helpers={live?.helpers} isNamed />
          {canCallAgain && <Button onClick={() => client.callAgain(id)}>Call again now</Button>}
        </div>
        <p className="text-[14px] text-ink-soft">
          {[data.role === 'any' ? undefined : data.role, driver?.title ?? `${data.driver} (not installed)`, data.site]
            .filter(Boolean)
            .join(' · ')}
        </p>
        <MovedNote show={show} device={device} live={live} />
        {advice !== undefined && (
          <p className="text-[14px]">
            <VeiledText text={advice} />
          </p>
        )}
      </header>
      <Tabs label={`Details of ${data.tag}`} tabs={tabs} value={shown} onChange={onTab}>
        {shown === 'test' && (
          <>
            <Button kind={test ? 'plain' : 'strong'} onClick={() => onTest(device)}>
              {test ? 'Test again' : 'Test connection'}
            </Button>
            {!test && (
              <p className="mt-3 text-[14px] text-ink-soft">
                The test goes from the address to the reports, stage by stage, and says what to do where it stops.
                Nothing is changed at the device.
              </p>
            )}
            {test && <TestPane test={test} device={id} good={good} onMend={mend} />}
            {test?.done && canCompare(show, data.driver, data.through?.device ?? '') && (
              <UnusedTest
                candidate={{
                  driver: data.driver,
                  host: data.host,
                  port: data.port,
                  user: data.user,
                  options: data.options,
                }}
              />
            )}
          </>
        )}
        {shown === 'try' && driver && <TryPane key={data.driver} show={show} device={device} driver={driver} />}
        {shown === 'readings' && <ReadingsPane device={id} driver={driver} />}
        {shown === 'settings' && (
          <SettingsTab key={device.version} show={show} device={device} onDone={() => onTab('test')} onFind={onFind} />
        )}
        {shown === 'commands' && driver && <OwnAdditions drivers={show.drivers} device={device} driver={driver} />}
        {shown === 'sources' && driver && <TiesPane show={show} device={device} driver={driver} />}
        {shown === 'displays' && driver && <DisplaysPane show={show} device={device} driver={driver} />}
        {shown === 'steering' && driver && <SteeringPane device={device} driver={driver} />}
        {shown === 'timers' && <TimersPane device={device} />}
        {shown === 'wire' && <WireTab device={id} />}
        {shown === 'uses' && <UsedByTab show={show} device={device} uses={uses} />}
      </Tabs>
    </article>
  );
}
