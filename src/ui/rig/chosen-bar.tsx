'use client';

import { useState } from 'react';
import { parseSubnet } from '../../core/net';
import {
  changeDevicesEdit,
  removeDevicesEdit,
  shiftAddressesEdit,
  usersOfDevice,
  usersText,
  type DeskView,
  type DeviceRecord,
} from '../../core/show';
import { Button } from '../kit';
import { useDesk } from '../desk';

interface Props {
  readonly show: DeskView;
  readonly chosen: readonly DeviceRecord[];
  readonly onTest: () => void;
  readonly onNone: () => void;
}

/** What can be done to several devices at once; each is one step that one undo takes back. */
export function ChosenBar({ show, chosen, onTest, onNone }: Props) {
  const desk = useDesk();
  const [subnet, setSubnet] = useState('');
  const [site, setSite] = useState('');
  const [removing, setRemoving] = useState(false);
  const parsed = subnet.trim() === '' ? undefined : parseSubnet(subnet);
  const users = chosen
    .map((device) => ({ tag: device.data.tag, text: usersText(usersOfDevice(show.records, device.id)) }))
    .filter(({ text }) => text !== '');
  const enable = (enabled: boolean) =>
    void desk.edit(
      changeDevicesEdit(chosen, `Switch ${enabled ? 'on' : 'off'}`, (data) =>
        data.enabled === enabled ? data : { ...data, enabled },
      ),
    );
  return (
    <div
      className="-mx-4 flex flex-wrap items-center gap-x-4 gap-y-2 border-t border-rule-strong bg-raised px-4 py-2"
      role="region"
      aria-label="Chosen devices"
    >
      <b>{chosen.length === 1 ? '1 chosen' : `${chosen.length} chosen`}</b>
      <Button onClick={onTest}>Test them</Button>
      <Button onClick={() => enable(true)}>Switch on</Button>
      <Button onClick={() => enable(false)}>Switch off</Button>
      <form
        className="inline-flex items-center gap-1.5 text-ink-soft"
        onSubmit={(event) => {
          event.preventDefault();
          if (parsed?.ok) void desk.edit(shiftAddressesEdit(chosen, parsed.value));
        }}
      >
        <label className="inline-flex items-center gap-1.5 text-ink-soft">
          Subnet
          <input
            className="font-mono text-[0.93em]"
            size={15}
            data-veil
            value={subnet}
            placeholder="10.0.20.0/24"
            aria-invalid={parsed && !parsed.ok}
            onChange={(e) => setSubnet(e.target.value)}
          />
        </label>
        <Button type="submit" disabled={!parsed?.ok}>
          Move addresses there
        </Button>
      </form>
      <form
        className="inline-flex items-center gap-1.5 text-ink-soft"
        onSubmit={(event) => {
          event.preventDefault();
          void desk.edit(
            changeDevicesEdit(chosen, `Site ${site}:`, (data) => (data.site === site ? data : { ...data, site })),
          );
        }}
      >
        <label className="inline-flex items-center gap-1.5 text-ink-soft">
          Site
          <input size={12} value={site} maxLength={60} onChange={(e) => setSite(e.target.value)} />
        </label>
        <Button type="submit">Set</Button>
      </form>
      <Button
        onClick={() => {
          if (!removing) return setRemoving(true);
          void desk.edit(removeDevicesEdit(chosen, show.records)).then((done) => done && onNone());
        }}
      >
        {removing ? `Really remove ${chosen.length}` : 'Remove'}
      </Button>
      <Button onClick={onNone}>Choose none</Button>
      {removing && (
        <p className="m-0 basis-full font-semibold">
          {users.length === 0
            ? 'Nothing uses them. Undo brings them back.'
            : `This would no longer work: ${users.map(({ tag, text }) => `${tag}: ${text}`).join('; ')}. Undo brings them back.`}
        </p>
      )}
      {parsed && !parsed.ok && <p className="m-0 basis-full font-semibold">{parsed.error}</p>}
    </div>
  );
}
