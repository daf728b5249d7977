'use client';

import type { DriverDocument } from '../../core/driver';
import { signsIn, type DeskView, type DeviceForm, type DeviceRecord } from '../../core/show';
import { driverOfDevice } from '../desk';
import { ParamField } from '../editor';
import { AddressField, PortNote } from './address-field';
import { DriverField } from './driver-field';

interface Props {
  readonly show: DeskView;
  readonly form: DeviceForm;
  readonly password: string | undefined;
  readonly hasPassword: boolean;
  /** The device itself, so that it is not offered as its own gateway. */
  readonly self: string | undefined;
  readonly onForm: (form: DeviceForm) => void;
  readonly onPassword: (password: string) => void;
  /** Enter in the address: try it all the way. */
  readonly onEnter: () => void;
}

/** The fields of a device, new or known: who it is, how it is spoken to, where it is, how to sign in. */
export function DeviceFields({ show, form, password, hasPassword, self, onForm, onPassword, onEnter }: Props) {
  const driver = show.drivers.find(({ id }) => id === form.driver);
  const set = (change: Partial<DeviceForm>) => onForm({ ...form, ...change });
  const gateways = gatewaysOf(show, self);
  const choose = (id: string) => {
    const chosen = show.drivers.find((each) => each.id === id);
    set({ driver: id, options: {}, ...(chosen ? { port: chosen.link.port } : {}) });
  };
  const reach = (id: string) => {
    const gateway = show.records.find((record) => record.kind === 'device' && record.id === id);
    const ports = gateway && driverOfDevice(show, gateway.id)?.ports;
    const [throughPort = '', offered] = Object.entries(ports ?? {})[0] ?? [];
    set({ through: id, throughPort, port: offered?.port ?? driver?.link.port ?? form.port });
  };
  return (
    <>
      <label>
        Tag
        <input
          value={form.tag}
          required
          pattern="[A-Za-z][A-Za-z0-9_]{0,15}"
          title="A letter first, then letters, digits or underscores, 16 at most"
          onChange={(e) => set({ tag: e.target.value })}
          className="mono"
        />
      </label>
      <label>
        Name
        <input value={form.name} required maxLength={80} onChange={(e) => set({ name: e.target.value })} />
      </label>
      <DriverField drivers={show.drivers} value={form.driver} onChoose={choose} />
      {gateways.length > 0 && (
        <label>
          Reached
          <select value={form.through} onChange={(e) => reach(e.target.value)}>
            <option value="">at its own address</option>
            {gateways.map((gateway) => (
              <option key={gateway.id} value={gateway.id}>
                through {gateway.data.tag}
              </option>
            ))}
          </select>
        </label>
      )}
      {form.through === '' && (
        <AddressField
          value={form.host}
          onChange={(host) => set({ host })}
          onClean={({ host, port }) => set({ host, ...(port === undefined ? {} : { port }) })}
          onEnter={onEnter}
        />
      )}
      <label>
        {form.through === '' ? 'Port' : 'Port of the gateway'}
        <input
          type="number"
          min={1}
          max={65535}
          required
          value={form.port}
          onChange={(e) => set({ port: Number(e.target.value) })}
          className="mono"
        />
        <PortNote show={show} form={form} self={self} onTake={(port) => set({ port })} />
      </label>
      <label>
        Site
        <input value={form.site} maxLength={60} onChange={(e) => set({ site: e.target.value })} />
      </label>
      {driver && signsIn(driver) && (
        <>
          <label>
            Sign-in name
            <input
              value={form.user}
              maxLength={80}
              data-veil
              autoComplete="off"
              onChange={(e) => set({ user: e.target.value })}
            />
          </label>
          <label>
            Password
            <input
              type="password"
              value={password ?? ''}
              maxLength={200}
              autoComplete="new-password"
              placeholder={hasPassword ? 'kept; type to change it' : ''}
              onChange={(e) => onPassword(e.target.value)}
            />
          </label>
        </>
      )}
      {Object.entries(driver?.options ?? {}).map(([name, option]) => (
        <ParamField
          key={name}
          param={{ title: option.title, value: option.value, sends: 'index', optional: false }}
          value={form.options[name] ?? option.default}
          onChange={(value) => value !== undefined && set({ options: { ...form.options, [name]: value } })}
        />
      ))}
      <label className="form-check">
        <input type="checkbox" checked={form.enabled} onChange={(e) => set({ enabled: e.target.checked })} />
        Switched on in this show
      </label>
      {driver && <DriverHelp help={driver.help} />}
    </>
  );
}

/** Where this kind of device shows its address, how it signs in and what has to be switched on. */
function DriverHelp({ help }: { readonly help: DriverDocument['help'] }) {
  const lines = [help.address, help.signIn, help.switchOn, help.helpers].filter((line) => line !== undefined);
  if (lines.length === 0) return null;
  return (
    <ul className="muted form-help">
      {lines.map((line) => (
        <li key={line}>{line}</li>
      ))}
    </ul>
  );
}

function gatewaysOf(show: DeskView, self: string | undefined): DeviceRecord[] {
  return show.records.filter((record): record is DeviceRecord => {
    if (record.kind !== 'device' || record.id === self || record.data.through) return false;
    const driver = show.drivers.find(({ id }) => id === record.data.driver);
    return driver !== undefined && Object.keys(driver.ports).length > 0;
  });
}
