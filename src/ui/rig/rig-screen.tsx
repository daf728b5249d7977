'use client';

import Link from 'next/link';
import { useCallback, useMemo, useState } from 'react';
import { conflictsOf, sameDevice } from '../../core/check';
import { resultOf } from '../../core/diagnosis';
import { usesOfRig, type DeviceRecord } from '../../core/show';
import { driverOfDevice, useDesk, useShow } from '../desk';
import { markTested } from '../frame';
import { useStatus } from '../live';
import { Button, VeiledText } from '../parts';
import { AddDevice } from './add-device';
import { ChosenBar } from './chosen-bar';
import { DeviceRow, type RowView } from './device-row';
import { FindPane } from './find-pane';
import { FirstSteps } from './first-steps';
import { usePulseStore } from './pulse-line';
import { arrangeRig, groupings, orders, type Grouping, type Order } from './rig-order';
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
  const pulses = usePulseStore();
  const { tests, running, failed: testFailed, run, stop } = useTests();
  const [open, setOpen] = useState<{ readonly device: string; readonly view: RowView } | undefined>(
    asked === undefined ? undefined : { device: asked, view: 'readings' },
  );
  const [tool, setTool] = useState<Tool>();
  const [typed, setTyped] = useState('');
  const [order, setOrder] = useState<Order>('tag');
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
  const groups = arrangeRig(
    devices.map((device) => ({ device, live: status?.devices[device.id] })),
    typed,
    order,
    grouping,
    useNetwork(),
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
  const onOpen = useCallback(
    (device: string, view: RowView) => setOpen(view === undefined ? undefined : { device, view }),
    [],
  );
  const onChoose = useCallback(
    (device: string) =>
      setChosen((before) => {
        const next = new Set(before);
        if (!next.delete(device)) next.add(device);
        return next;
      }),
    [],
  );
  const onTest = useCallback(
    (device: DeviceRecord) => {
      void run({ devices: [device.data.tag] }, [device.id]);
      setOpen({ device: device.id, view: 'test' });
    },
    [run],
  );
  const onFind = useCallback(() => {
    setTool('find');
    window.scrollTo({ top: 0 });
    document.getElementById('work')?.scrollTo({ top: 0 });
  }, []);
  const testAll = (which: readonly DeviceRecord[]) =>
    void run(
      { devices: which.map(({ data }) => data.tag) },
      which.map(({ id }) => id),
    ).then((ended) => {
      if (ended && which.length === devices.length && status) markTested(status.show.name);
    });
  const shown = groups.flatMap(({ rows }) => rows.map(({ device }) => device));
  const picked = devices.filter(({ id }) => chosen.has(id));
  const missing = devices.filter(({ data }) => data.host === '' && !data.through);
  const toggle = (which: Exclude<Tool, undefined>) => setTool(tool === which ? undefined : which);
  return (
    <section className="screen" aria-labelledby="rig-title">
      <div className="screen-head">
        <h1 id="rig-title">Rig</h1>
        <p className="muted" role="status">
          {show
            ? `${devices.length === 1 ? '1 device' : `${devices.length} devices`} · ${saving ? 'storing …' : 'stored ✓'}`
            : failed
              ? 'The show could not be read.'
              : 'Fetching the show …'}
        </p>
        <span className="head-end screen-acts">
          {status?.standinPages && (
            <a className="btn btn-ghost" href={status.standinPages} target="_blank" rel="noreferrer">
              Stand-ins’ own pages
            </a>
          )}
          <Link className="btn btn-ghost" href="/drivers">
            Drivers
          </Link>
          <Link className="btn btn-ghost" href="/show">
            Show and network
          </Link>
          <Button aria-expanded={tool === 'table'} onClick={() => toggle('table')}>
            Table
          </Button>
          <Button aria-expanded={tool === 'find'} onClick={() => toggle('find')}>
            Find devices
          </Button>
          <Button kind="strong" aria-expanded={tool === 'add'} onClick={() => toggle('add')}>
            Add a device
          </Button>
        </span>
      </div>
      {show && tool === 'add' && <AddDevice show={show} onDone={() => setTool(undefined)} onFind={onFind} />}
      {show && tool === 'find' && <FindPane show={show} onDone={() => setTool(undefined)} />}
      {show && tool === 'table' && <TablePane show={show} onDone={() => setTool(undefined)} />}
      {show && devices.length === 0 && <FirstSteps onFind={onFind} onAdd={() => setTool('add')} />}
      {show && missing.length > 0 && (
        <p className="to-do">
          <b>Addresses still to be typed:</b>{' '}
          {missing.map((device) => (
            <Button key={device.id} onClick={() => onOpen(device.id, 'change')}>
              {device.data.tag}
            </Button>
          ))}
        </p>
      )}
      {show && devices.length > 0 && (
        <div className="rig-tools">
          <label className="inline">
            Filter
            <input
              type="search"
              value={typed}
              placeholder="tag, role, address …"
              onChange={(e) => setTyped(e.target.value)}
            />
          </label>
          <label className="inline">
            Sort by
            <select value={order} onChange={(e) => setOrder(e.target.value as Order)}>
              {orders.map((each) => (
                <option key={each}>{each}</option>
              ))}
            </select>
          </label>
          <label className="inline">
            Group by
            <select value={grouping} onChange={(e) => setGrouping(e.target.value as Grouping)}>
              {groupings.map((each) => (
                <option key={each}>{each}</option>
              ))}
            </select>
          </label>
          <label className="inline">
            <input
              type="checkbox"
              checked={shown.length > 0 && shown.every(({ id }) => chosen.has(id))}
              onChange={(e) => setChosen(new Set(e.target.checked ? shown.map(({ id }) => id) : []))}
            />
            all of them
          </label>
          <span className="head-end">
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
      <TestSummary devices={devices} tests={tests} onShow={(device) => onOpen(device, 'test')} />
      {testFailed && <p className="form-error">{testFailed}</p>}
      {show && devices.length > 0 && groups.length === 0 && <p>No device has all of these words.</p>}
      {show &&
        groups.map(({ name, rows }) => (
          <div key={name} className="rig-group">
            {name !== '' && (
              <h2 className="rig-group-name">
                <VeiledText text={name} />
              </h2>
            )}
            {rows.map(({ device, live }) => (
              <DeviceRow
                key={device.id}
                show={show}
                device={device}
                live={live}
                pulses={pulses}
                test={tests.get(device.id)}
                good={goodOne(device)}
                conflict={conflicts.get(device.id)}
                uses={uses.get(device.id)}
                chosen={chosen.has(device.id)}
                open={open?.device === device.id ? open.view : undefined}
                onOpen={onOpen}
                onChoose={onChoose}
                onTest={onTest}
                onFind={onFind}
              />
            ))}
          </div>
        ))}
    </section>
  );
}
