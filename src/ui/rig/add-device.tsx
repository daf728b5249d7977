'use client';

import { useState, type FormEvent } from 'react';
import { freeTag, withDeviceForm, type DeskView, type DeviceForm, type DeviceRecord } from '../../core/show';
import { useDesk } from '../desk';
import { newId } from '../parts';
import { TriedDeviceForm } from './device-form';
import { Button } from '../kit';
import { useDraft } from './use-draft';

const blank: DeviceForm = {
  tag: '',
  name: '',
  driver: '',
  host: '',
  port: 1,
  enabled: true,
  site: '',
  user: '',
  options: {},
  through: '',
  throughPort: '',
};

/** A new device: what it is, and where. The tag follows the driver's role until somebody types one. */
export function AddDevice({
  show,
  onDone,
  onFind,
}: {
  readonly show: DeskView;
  readonly onDone: () => void;
  readonly onFind: () => void;
}) {
  const desk = useDesk();
  const [form, setForm, forget] = useDraft('new device', '', () => blank);
  const [password, setPassword] = useState<string>();
  const [ownTag, setOwnTag] = useState(false);
  const onForm = (next: DeviceForm) => {
    const typed = next.tag !== form.tag;
    if (typed) setOwnTag(next.tag !== '');
    const driver = show.drivers.find(({ id }) => id === next.driver);
    if (typed || ownTag || !driver || next.driver === form.driver) return setForm(next);
    const tags = show.records.flatMap((record) => (record.kind === 'device' ? [record.data.tag] : []));
    const tag = freeTag(driver.role, tags);
    setForm({ ...next, tag, name: next.name || driver.title });
  };
  const add = async (event: FormEvent) => {
    event.preventDefault();
    const role = show.drivers.find(({ id }) => id === form.driver)?.role ?? '';
    const id = newId('dev');
    const { through: _through, throughPort: _port, ...base } = form;
    const record: DeviceRecord = {
      kind: 'device',
      id,
      version: 1,
      data: withDeviceForm({ ...base, role }, form, role),
    };
    const edit = { title: `Add ${form.tag}`, changes: [{ op: 'add' as const, record }] };
    if (!(await desk.edit(edit, password ? { [id]: password } : {}))) return;
    forget();
    onDone();
  };
  return (
    <form
      onSubmit={(event) => void add(event)}
      className="form grid grid-cols-[repeat(auto-fill,minmax(min(100%,170px),1fr))] items-start px-0 pt-1 pb-3.5"
      aria-label="New device"
    >
      <TriedDeviceForm
        show={show}
        form={form}
        password={password}
        self={undefined}
        onForm={onForm}
        onPassword={setPassword}
        onFind={onFind}
      />
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button type="submit" kind="strong">
          Add device
        </Button>
        <Button
          onClick={() => {
            forget();
            onDone();
          }}
        >
          Cancel
        </Button>
      </div>
    </form>
  );
}
