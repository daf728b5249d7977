'use client';

import { ChevronDown } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useCallback, useMemo, useState } from 'react';
import { conflictsOf, sameDevice } from '../../core/check';
import { resultOf } from '../../core/diagnosis';
import { usesOfRig, type DeviceRecord } from '../../core/show';
import { driverOfDevice, useDesk, useShow } from '../desk';
import { markTested } from '../frame';
import { Button, Menu, Select, SplitPanes } from '../kit';
import { useLive, useStatus } from '../live';

import { AddDevice } from './add-device';
import { ChosenBar } from './chosen-bar';
import { DeviceDetails, type DeviceTab } from './device-details';
import { FindPane } from './find-pane';
import { FirstSteps } from './first-steps';
import { usePulseStore } from './pulse-line';
import { groupings, matchingRows, type Grouping } from './rig-order';
import { RigTable } from './rig-table';
import { TablePane } from './table-pane';
import { TestSummary } from './test-summary';
import { useNetwork } from './use-network';
import { useTests } from './use-test';

type Tool = 'add' | 'find' | 'table' | undefined;

/** The rig: every device with its address, its link and its grades, what it reports, and what can be done about it. */
export function RigScreen({ device: asked }: { readonly device?: string }) {
  const { show, failed } = useShow();
  const status = useStatus();
  const { saving } = useDesk();
  const router = useRouter();
  const pulses = usePulseStore();
  const { tests, running, failed: testFailed, run, stop } = useTests();
  const [open, setOpen] = useState(asked);
  const [tab, setTab] = useState<DeviceTab>(asked === undefined ? 'test' : 'readings');
  const live = useLive();
  const [tool, setTool] = useState<Tool>();
  const [typed, setTyped] = useState('');
  const [grouping, setGrouping] = useState<Grouping>('nothing');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const devices = useMemo(
    () => (show?.records ?? []).filter((record): record is DeviceRecord => record.kind === 'device'),
    [show],
  );
  const conflicts = useMemo(() => {
    const found = show
      ? conflictsOf(devices, (device) => {
          const document = driverOfDevice(show, device.id);
          return document && { document };
        })
      : [];
    const same = sameDevice(
      devices.map(({ id, data }) => ({ id, tag: data.tag, driver: data.driver, serial: status?.devices[id]?.serial })),
    );
    return new Map([...found, ...same].flatMap(({ devices: ids, message }) => ids.map((id) => [id, message])));
  }, [show, devices, status]);
  const uses = useMemo(() => usesOfRig(show?.records ?? []), [show]);
  const network = useNetwork();
  const rows = matchingRows(
    devices.map((device) => ({ device, live: status?.devices[device.id] })),
    typed,
  );
  // A device of the same driver whose test passed: what fails elsewhere is set beside it.
  const wellBy = useMemo(() => {
    const found = devices.flatMap(({ id, data }) => {
      const test = tests.get(id);
      const result =
        test &&
        resultOf(
          test.stages.map(({ verdict }) => verdict),
          test.done,
        );
      return test && (result === 'passed' || result === 'doubtful')
        ? [[data.driver, { tag: data.tag, test }] as const]
        : [];
    });
    return new Map(found);
  }, [devices, tests]);
  const goodOne = ({ data }: DeviceRecord) => {
    const good = wellBy.get(data.driver);
    return good?.tag === data.tag ? undefined : good;
  };
  // The pane shows one thing: the details of a device, or the form for a new one, which is kept as far as it was filled in.
  const leaveAdding = useCallback(() => setTool((now) => (now === 'add' ? undefined : now)), []);
  const onOpen = useCallback(
    (device: string) => {
      setOpen((before) => (before === device ? undefined : device));
      leaveAdding();
    },
    [leaveAdding],
  );
  const onShow = useCallback(
    (device: string, which: DeviceTab) => {
      leaveAdding();
      setOpen(device);
      setTab(which);
    },
    [leaveAdding],
  );
  const onShowTest = useCallback((device: string) => onShow(device, 'test'), [onShow]);
  const onCallAgain = useCallback((device: string) => live.callAgain(device), [live]);
  const onChoose = useCallback(
    (ids: readonly string[], choose: boolean) =>
      setChosen((before) => new Set(choose ? [...before, ...ids] : [...before].filter((id) => !ids.includes(id)))),
    [],
  );
  const onTest = useCallback(
    (device: DeviceRecord) => {
      void run({ devices: [device.data.tag] }, [device.id]);
      onShow(device.id, 'test');
    },
    [run, onShow],
  );
  const onFind = useCallback(() => {
    setTool('find');
    document.getElementById('rig-list')?.scrollTo({ top: 0 });
  }, []);
  const testAll = (which: readonly DeviceRecord[]) =>
    void run(
      { devices: which.map(({ data }) => data.tag) },
      which.map(({ id }) => id),
    ).then((ended) => {
      if (ended && which.length === devices.length && status) markTested(status.show.name);
    });
  const shown = rows.map(({ device }) => device);
  const picked = devices.filter(({ id }) => chosen.has(id));
  const missing = devices.filter(({ data }) => data.host === '' && !data.through);
  const toggle = (which: Exclude<Tool, undefined>) => {
    setTool(tool === which ? undefined : which);
    // The pane is for one thing at a time.
    if (which === 'add') setOpen(undefined);
  };
  const opened = devices.find(({ id }) => id === open);
  const onAdded = (added?: string) => {
    setTool(undefined);
    if (added !== undefined) onShow(added, 'test');
  };
  const list = (
    <div id="rig-list" className="h-full overflow-auto px-4 pt-3 pb-4">
      <div className="mb-2.5 flex min-h-9.5 flex-wrap items-center gap-x-3.5 gap-y-2">
        <h1 id="rig-title">Rig</h1>
        <p className="text-ink-soft" role="status">
          {show
            ? `${devices.length === 1 ? '1 device' : `${devices.length} devices`} · ${saving ? 'saving …' : 'saved'}`
            : failed
              ? 'The show could not be read.'
              : 'Fetching the show …'}
        </p>
        <span className="ml-auto flex flex-wrap gap-2">
          <Menu
            acts={[
              { title: 'Drivers', run: () => router.push('/drivers') },
              { title: 'Show and network', run: () => router.push('/show') },
              { title: 'Edit the rig as a table', run: () => toggle('table') },
              ...(status?.standinPages
                ? [{ title: 'Stand-ins’ own pages', run: () => void window.open(status.standinPages ?? undefined) }]
                : []),
            ]}
          >
            <Button kind="ghost">
              More <ChevronDown aria-hidden className="size-4" />
            </Button>
          </Menu>
          <Button aria-expanded={tool === 'find'} onClick={() => toggle('find')}>
            Find devices
          </Button>
          <Button kind="strong" aria-expanded={tool === 'add'} onClick={() => toggle('add')}>
            Add device
          </Button>
        </span>
      </div>
      {show && tool === 'find' && <FindPane show={show} onDone={() => setTool(undefined)} />}
      {show && tool === 'table' && <TablePane show={show} onDone={() => setTool(undefined)} />}
      {show && devices.length === 0 && <FirstSteps onFind={onFind} onAdd={() => toggle('add')} />}
      {show && missing.length > 0 && (
        <p className="flex flex-wrap items-center gap-2 border-t border-rule-strong py-2">
          <b>Addresses still missing:</b>{' '}
          {missing.map((device) => (
            <Button key={device.id} onClick={() => onShow(device.id, 'settings')}>
              {device.data.tag}
            </Button>
          ))}
        </p>
      )}
      {show && devices.length > 0 && (
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2 border-t border-rule-strong py-2">
          <label className="inline-flex items-center gap-1.5 text-ink-soft">
            Filter
            <input
              type="search"
              value={typed}
              placeholder="tag, role, address …"
              onChange={(e) => setTyped(e.target.value)}
            />
          </label>
          <Select
            label="Group by"
            labelAt="before"
            value={grouping}
            options={groupings.map((each) => ({ value: each, title: each }))}
            onChoose={setGrouping}
          />
          <span className="ml-auto">
            {running ? (
              <Button onClick={stop}>Stop testing</Button>
            ) : (
              <Button onClick={() => testAll(shown)}>
                {shown.length === devices.length ? 'Test the whole rig' : `Test these ${shown.length}`}
              </Button>
            )}
          </span>
        </div>
      )}
      {show && picked.length > 0 && (
        <ChosenBar show={show} chosen={picked} onTest={() => testAll(picked)} onNone={() => setChosen(new Set())} />
      )}
      <TestSummary devices={devices} tests={tests} onShow={onShowTest} />
      {testFailed && <p className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">{testFailed}</p>}
      {show && devices.length > 0 && rows.length === 0 && <p>No device matches “{typed}”.</p>}
      {show && rows.length > 0 && (
        <RigTable
          rows={rows}
          driverOf={(device) => driverOfDevice(show, device.id)?.title ?? `${device.data.driver} (not installed)`}
          uses={uses}
          grouping={grouping}
          network={network}
          pulses={pulses}
          tests={tests}
          conflicts={conflicts}
          chosen={chosen}
          open={opened?.id}
          onOpen={onOpen}
          onChoose={onChoose}
          onCallAgain={onCallAgain}
          onShowTest={onShowTest}
        />
      )}
    </div>
  );
  return (
    <section className="flex h-full min-h-0" aria-labelledby="rig-title">
      <SplitPanes
        name="rig"
        main={list}
        side={
          show && tool === 'add' ? (
            <AddDevice show={show} onDone={onAdded} onFind={onFind} />
          ) : (
            show &&
            opened && (
              <DeviceDetails
                key={opened.id}
                show={show}
                device={opened}
                live={status?.devices[opened.id]}
                pulses={pulses}
                test={tests.get(opened.id)}
                good={goodOne(opened)}
                uses={uses.get(opened.id)}
                tab={tab}
                onTab={setTab}
                onTest={onTest}
                onFind={onFind}
                onClose={() => setOpen(undefined)}
              />
            )
          )
        }
      />
    </section>
  );
}
