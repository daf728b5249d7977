'use client';

import { useState, type FormEvent } from 'react';
import type { DriverDocument } from '../../core/driver';
import type { DeviceRecord } from '../../core/show';
import { useDesk } from '../desk';
import { Button } from '../parts';

interface Props {
  readonly device: DeviceRecord;
  readonly help: DriverDocument['help'] | undefined;
  readonly onDone: () => void;
}

/** Name, address and switch of a device. A device whose address does not change keeps its connection. */
export function DevicePane({ device, help, onDone }: Props) {
  const desk = useDesk();
  const { name, host, port, enabled, site } = device.data;
  const [form, setForm] = useState({ name, host, port, enabled, site });
  const save = async (event: FormEvent) => {
    event.preventDefault();
    const to: DeviceRecord = { ...device, data: { ...device.data, ...form, host: form.host.trim() } };
    const done = await desk.edit({ title: `Change ${device.data.tag}`, changes: [{ op: 'update', from: device, to }] });
    if (done) onDone();
  };
  return (
    <form onSubmit={(event) => void save(event)} className="form form-wide">
      <label>
        Name
        <input value={form.name} required maxLength={80} onChange={(e) => setForm({ ...form, name: e.target.value })} />
      </label>
      <label>
        Address
        <input
          value={form.host}
          required
          maxLength={253}
          onChange={(e) => setForm({ ...form, host: e.target.value })}
          spellCheck={false}
          className="mono"
        />
      </label>
      <label>
        Port
        <input
          type="number"
          min={1}
          max={65535}
          required
          value={form.port}
          onChange={(e) => setForm({ ...form, port: Number(e.target.value) })}
          className="mono"
        />
      </label>
      <label>
        Site
        <input value={form.site} maxLength={60} onChange={(e) => setForm({ ...form, site: e.target.value })} />
      </label>
      <label className="form-check">
        <input
          type="checkbox"
          checked={form.enabled}
          onChange={(e) => setForm({ ...form, enabled: e.target.checked })}
        />
        Switched on in this show
      </label>
      {help?.address && <p className="muted form-help">{help.address}</p>}
      <div className="form-acts">
        <Button type="submit" kind="strong">
          Save device
        </Button>
        <Button onClick={onDone}>Leave as it was</Button>
      </div>
    </form>
  );
}
