'use client';

import { useState } from 'react';
import type { DeviceRecord } from '../../core/show';
import { Button } from '../parts';
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
    <section className="form-part" aria-label="Another device">
      <h3>Another device</h3>
      <div className="form-pair">
        <label>
          Instead of
          <select value={from.id} onChange={(event) => setFrom(event.target.value)}>
            {known.map(({ id, record }) => (
              <option key={id} value={id}>
                {record ? `${record.data.tag} ${record.data.name}` : 'a device that is gone'}
              </option>
            ))}
          </select>
        </label>
        <label>
          take
          <select value={to.id} onChange={(event) => setTo(event.target.value)}>
            {others.map(({ id, data }) => (
              <option key={id} value={id}>
                {data.tag} {data.name}
              </option>
            ))}
          </select>
        </label>
      </div>
      {rank(to) > 0 && <p className="muted form-help">It is of another kind: what it does not have will be marked.</p>}
      <div className="form-acts">
        <Button onClick={() => onRetarget(from.id, to)}>{act}</Button>
      </div>
    </section>
  );
}
