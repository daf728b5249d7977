'use client';

import { X } from 'lucide-react';
import { useState } from 'react';
import type { DriverDocument } from '../../core/driver';
import { freeTag, roleFor, withDeviceForm, type DeskView, type DeviceForm, type DeviceRecord } from '../../core/show';
import { useDesk } from '../desk';
import { newId } from '../parts';
import { TriedDeviceForm } from './device-form';
import { Button, IconButton } from '../kit';
import { useDeviceForm } from './use-device-form';

const blank: DeviceForm = {
  tag: '',
  name: '',
  driver: '',
  role: 'any',
  host: '',
  port: 1,
  enabled: true,
  site: '',
  user: '',
  options: {},
  through: '',
  throughPort: '',
};

interface Props {
  readonly show: DeskView;
  /** Closes the pane; with the id of the device when one was added. */
  readonly onDone: (added?: string) => void;
  readonly onFind: () => void;
}

/** A new device, in the pane beside the rig: what it is, and where. The tag follows the driver's role until somebody types one. */
export function AddDevice({ show, onDone, onFind }: Props) {
  const desk = useDesk();
  const { form, password, errors, onLeave, onForm, onPassword, onSend, forget } = useDeviceForm({
    records: show.records,
    drivers: show.drivers,
    self: undefined,
    draft: 'new device',
    stamp: '',
    initial: () => blank,
  });
  const [ownTag, setOwnTag] = useState(false);
  const propose = (next: DeviceForm) => {
    const typed = next.tag !== form.tag;
    if (typed) setOwnTag(next.tag !== '');
    const driver = show.drivers.find(({ id }) => id === next.driver);
    const before = show.drivers.find(({ id }) => id === form.driver);
    const proposed = before && nameFrom(before);
    const isSame = next.driver === form.driver && next.role === form.role;
    if (typed || ownTag || !driver || isSame) return onForm(next);
    const tags = show.records.flatMap((record) => (record.kind === 'device' ? [record.data.tag] : []));
    onForm({
      ...next,
      tag: freeTag(roleFor(driver, next.role), tags),
      name: next.name === '' || next.name === proposed ? nameFrom(driver) : next.name,
    });
  };
  const add = async () => {
    const id = newId('dev');
    const { through: _through, throughPort: _port, ...base } = form;
    const record: DeviceRecord = {
      kind: 'device',
      id,
      version: 1,
      data: withDeviceForm(
        base,
        form,
        show.drivers.find(({ id: each }) => each === form.driver),
      ),
    };
    const edit = { title: `Add ${form.tag}`, changes: [{ op: 'add' as const, record }] };
    if (!(await desk.edit(edit, password ? { [id]: password } : {}))) return;
    forget();
    onDone(id);
  };
  const cancel = () => {
    forget();
    onDone();
  };
  return (
    <section className="flex h-full min-h-0 flex-col" aria-labelledby="add-device-title">
      <header className="flex items-center gap-3 border-b border-rule px-4 pt-3 pb-2">
        <h2 id="add-device-title">New device</h2>
        <IconButton label="Close" className="ml-auto" onClick={() => onDone()}>
          <X aria-hidden className="size-4" />
        </IconButton>
      </header>
      <form
        noValidate
        onSubmit={(event) => void onSend(add)(event)}
        className="flex min-h-0 flex-1 flex-col"
        aria-label="New device"
      >
        <div className="form grid min-h-0 flex-1 auto-rows-max grid-cols-[repeat(auto-fill,minmax(min(100%,170px),1fr))] items-start overflow-auto px-4 py-3">
          <TriedDeviceForm
            show={show}
            form={form}
            password={password}
            errors={errors}
            self={undefined}
            onLeave={onLeave}
            onForm={propose}
            onPassword={onPassword}
            onFind={onFind}
          />
        </div>
        {/* Below what scrolls: a test that comes in meanwhile must not move a button away from under the pointer. */}
        <div className="flex flex-wrap gap-2.5 border-t border-rule px-4 py-3">
          <Button type="submit" kind="strong" disabled={form.driver === ''}>
            Add device
          </Button>
          <Button onClick={cancel}>Cancel</Button>
        </div>
      </form>
    </section>
  );
}

/** What a device is called until somebody names it. */
const nameFrom = ({ id, title, standIn }: DriverDocument): string => {
  // “Any device” is the name of none.
  if (id.startsWith('generic-')) return '';
  return standIn ? title.replace(/ \([^)]*\)$/, '') : title;
};
