'use client';

import { useState, type FormEvent } from 'react';
import { deviceFormOf, withDeviceForm, type DeskView, type DeviceRecord } from '../../core/show';
import { useDesk } from '../desk';
import { Button } from '../parts';
import { DeviceFields } from './device-fields';

interface Props {
  readonly show: DeskView;
  readonly device: DeviceRecord;
  readonly onDone: () => void;
}

/** Everything about a device that can be changed. One whose address does not change keeps its connection. */
export function DevicePane({ show, device, onDone }: Props) {
  const desk = useDesk();
  const [form, setForm] = useState(() => deviceFormOf(device));
  const [password, setPassword] = useState<string>();
  const [removing, setRemoving] = useState(false);
  const { tag } = device.data;
  const save = async (event: FormEvent) => {
    event.preventDefault();
    const role = show.drivers.find(({ id }) => id === form.driver)?.role ?? device.data.role;
    const to: DeviceRecord = { ...device, data: withDeviceForm(device.data, form, role) };
    if (password !== undefined && !(await desk.setPassword(device.id, password))) return;
    const done = await desk.edit({ title: `Change ${tag}`, changes: [{ op: 'update', from: device, to }] });
    if (done) onDone();
  };
  const remove = async () => {
    if (!removing) return setRemoving(true);
    await desk.edit({ title: `Remove ${tag}`, changes: [{ op: 'remove', record: device }] });
  };
  return (
    <form onSubmit={(event) => void save(event)} className="form form-wide">
      <DeviceFields
        show={show}
        form={form}
        password={password}
        hasPassword={show.withPassword.includes(device.id)}
        self={device.id}
        onForm={setForm}
        onPassword={setPassword}
      />
      <div className="form-acts">
        <Button type="submit" kind="strong">
          Save device
        </Button>
        <Button onClick={onDone}>Leave as it was</Button>
        <Button className="head-end" onClick={() => void remove()}>
          {removing ? `Really remove ${tag}` : 'Remove from the rig'}
        </Button>
      </div>
    </form>
  );
}
