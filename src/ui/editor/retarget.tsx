'use client';

import { useState } from 'react';
import type { DeviceRecord } from '../../core/show';

import { Button, formPartClass, Select } from '../kit';
import { useFacts } from './facts';

interface Props {
  /** The devices that can be replaced. */
  readonly from: readonly string[];
  readonly act: string;
  /** True for devices that have what is needed; they are offered first. */
  readonly fits?: (device: DeviceRecord) => boolean;
  readonly onRetarget: (from: string, to: DeviceRecord) => void;
}

/** From one device to another: those of the same kind are offered first. */
export function Retarget({ from: ids, act, fits, onRetarget }: Props) {
  const { devices } = useFacts();
  const [chosenFrom, setFrom] = useState('');
  const [chosenTo, setTo] = useState('');
  const known = ids.map((id) => ({ id, record: devices.find((each) => each.id === id) }));
  const from = known.find(({ id }) => id === chosenFrom) ?? known[0];
  if (!from) return null;
  const role = from.record?.data.role;
  const driver = from.record?.data.driver;
  const rank = (device: DeviceRecord) => {
    if (fits) return fits(device) ? 0 : 2;
    return device.data.driver === driver ? 0 : device.data.role === role ? 1 : 2;
  };
  const others = devices.filter(({ id }) => id !== from.id).sort((a, b) => rank(a) - rank(b));
  const to = others.find(({ id }) => id === chosenTo) ?? others[0];
  if (!to) return null;
  return (
    <section className={formPartClass} aria-label="Another device">
      <h3>Another device</h3>
      <div className="grid grid-cols-[1fr_1fr] gap-2.5 [&_input]:w-full [&_input]:min-w-0">
        <Select
          label="Replace"
          value={from.id}
          options={known.map(({ id, record }) => ({
            value: id,
            title: record ? `${record.data.tag} ${record.data.name}` : 'a device that no longer exists',
          }))}
          onChoose={setFrom}
        />
        <Select
          label="with"
          value={to.id}
          options={others.map(({ id, data }) => ({ value: id, title: `${data.tag} ${data.name}` }))}
          onChoose={setTo}
        />
      </div>
      {rank(to) > 0 && (
        <p className="col-span-full text-[13px] text-ink-soft">
          This device is of a different kind. Commands and readings that it lacks will be marked.
        </p>
      )}
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button onClick={() => onRetarget(from.id, to)}>{act}</Button>
      </div>
    </section>
  );
}
