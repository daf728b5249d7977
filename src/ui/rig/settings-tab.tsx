'use client';

import { useState } from 'react';
import {
  deviceFormOf,
  removeDevicesEdit,
  requestRightsEdit,
  usersOfDevice,
  usersText,
  withDeviceForm,
  type DeskView,
  type DeviceRecord,
} from '../../core/show';
import { driverOfDevice, useDesk } from '../desk';
import { TriedDeviceForm } from './device-form';
import { Button, optionsFrom, Select } from '../kit';
import { useDeviceForm } from './use-device-form';

interface Props {
  readonly show: DeskView;
  readonly device: DeviceRecord;
  readonly onDone: () => void;
  readonly onFind: () => void;
}

/** Everything about a device that can be changed. One whose address does not change keeps its connection. */
export function SettingsTab({ show, device, onDone, onFind }: Props) {
  const desk = useDesk();
  const { form, password, errors, onLeave, onForm, onPassword, onSend, forget } = useDeviceForm({
    records: show.records,
    drivers: show.drivers,
    self: device.id,
    draft: `device ${device.id}`,
    stamp: String(device.version),
    initial: () => deviceFormOf(device),
  });
  const [removing, setRemoving] = useState(false);
  const { tag } = device.data;
  const users = usersText(usersOfDevice(show.records, device.id));
  const save = async () => {
    const driver = show.drivers.find(({ id }) => id === form.driver);
    const to: DeviceRecord = { ...device, data: withDeviceForm(device.data, form, driver) };
    const edit = { title: `Change ${tag}`, changes: [{ op: 'update' as const, from: device, to }] };
    if (!(await desk.edit(edit, password === undefined ? {} : { [device.id]: password }))) return;
    forget();
    onDone();
  };
  const remove = async () => {
    if (!removing) return setRemoving(true);
    await desk.edit(removeDevicesEdit([device], show.records));
  };
  return (
    <form
      noValidate
      onSubmit={(event) => void onSend(save)(event)}
      className="form grid grid-cols-[repeat(auto-fill,minmax(min(100%,170px),1fr))] items-start pt-1 pb-3.5"
    >
      <TriedDeviceForm
        show={show}
        form={form}
        password={password}
        errors={errors}
        self={device.id}
        onLeave={onLeave}
        onForm={onForm}
        onPassword={onPassword}
        onFind={onFind}
      />
      {driverOfDevice(show, device.id)?.replies.some(({ requests }) => requests) && (
        <Select
          label="Requests from this device"
          value={device.data.requests ?? 'none'}
          options={optionsFrom({
            none: 'not allowed',
            reads: 'may read and fire watches',
            acts: 'may also press and start',
          })}
          onChoose={(rights) => void desk.edit(requestRightsEdit(device, rights === 'none' ? undefined : rights))}
        />
      )}
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button type="submit" kind="strong">
          Save device
        </Button>
        <Button
          onClick={() => {
            forget();
            onDone();
          }}
        >
          Cancel
        </Button>
        {removing && (
          <span className="text-ink-soft">
            {users === '' ? 'Nothing uses it.' : `Without it this will not work: ${users}. Undo brings it back.`}
          </span>
        )}
        <Button className="ml-auto" onClick={() => void remove()}>
          {removing ? `Really remove ${tag}` : 'Remove from the rig'}
        </Button>
      </div>
    </form>
  );
}
