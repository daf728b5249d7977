'use client';

import { deviceRoles, documentFor, fitsOptions, groupOf, optionsOf, type DriverDocument } from '../../core/driver';
import { signsIn, signsInByName, usualPort, type DeskView, type DeviceForm, type DeviceRecord } from '../../core/show';
import { driverOfDevice } from '../desk';
import { ParamField } from '../fields';
import { Checkbox, Field, PasswordField, Select } from '../kit';
import { AddressField, PortNote } from './address-field';
import { DriverField } from './driver-field';
import type { DeviceFormErrors } from './use-device-form';
import { HelperFields } from './helper-fields';
import { optionFaults } from './option-faults';
import { LocalPortField } from './local-port-field';

interface Props {
  readonly show: DeskView;
  readonly form: DeviceForm;
  readonly password: string | undefined;
  readonly hasPassword: boolean;
  /** What is wrong, by field. */
  readonly errors: DeviceFormErrors;
  /** The device itself, so that it is not offered as its own gateway. */
  readonly self: string | undefined;
  readonly onLeave: (field: 'tag' | 'name' | 'port') => void;
  readonly onForm: (form: DeviceForm) => void;
  readonly onPassword: (password: string) => void;
  /** Enter in the address: try it all the way. */
  readonly onEnter: () => void;
}

/** The kind of port of this computer at which devices of a driver are; `undefined` for an address on a network. */
const localKind = (driver: DriverDocument | undefined): 'serial' | 'midi' | 'internal' | undefined => {
  const kind = driver?.link.kind;
  return kind === 'serial' || kind === 'midi' || kind === 'internal' ? kind : undefined;
};

/** The fields of a device, new or known: who it is, how it is spoken to, where it is, how to sign in. */
export function DeviceFields({
  show,
  form,
  password,
  hasPassword,
  errors: wrong,
  self,
  onLeave,
  onForm,
  onPassword,
  onEnter,
}: Props) {
  const driver = show.drivers.find(({ id }) => id === form.driver);
  const used = driver && documentFor(driver, { options: form.options });
  const faults = driver ? optionFaults(driver, form.options) : {};
  const set = (change: Partial<DeviceForm>) => onForm({ ...form, ...change });
  const gateways = gatewaysOf(show, self);
  const local = localKind(driver);
  const group = used && groupOf(used);
  /** Where a universe goes to its group, its address follows from the options. */
  const setOptions = (options: DeviceForm['options']) => {
    const next = driver && groupOf(documentFor(driver, { options }));
    set({ options, ...(next === group ? {} : { host: next ?? '' }) });
  };
  const choose = (id: string) => {
    const chosen = show.drivers.find((each) => each.id === id);
    // An address is no port of this computer, and no gateway leads to one.
    const place = localKind(chosen) === local ? {} : { host: '', through: '', throughPort: '' };
    set({ driver: id, role: 'any', options: {}, ...place, ...(chosen ? { port: usualPort(chosen) } : {}) });
  };
  const reach = (id: string) => {
    const gateway = show.records.find((record) => record.kind === 'device' && record.id === id);
    const ports = gateway && driverOfDevice(show, gateway.id)?.ports;
    const [throughPort = '', offered] = Object.entries(ports ?? {})[0] ?? [];
    set({ through: id, throughPort, port: offered?.port ?? (driver ? usualPort(driver) : form.port) });
  };
  return (
    <>
      <DriverField drivers={show.drivers} value={form.driver} onChoose={choose} />
      {gateways.length > 0 && !local && (
        <Select
          label="Connected"
          value={form.through}
          options={[
            { value: '', title: 'at its own address' },
            ...gateways.map((gateway) => ({ value: gateway.id, title: `through ${gateway.data.tag}` })),
          ]}
          onChoose={reach}
        />
      )}
      {local === 'internal' && <p className="text-[13px] text-ink-soft">It runs in this program and has no address.</p>}
      {local && local !== 'internal' && (
        <LocalPortField kind={local} value={form.host} onChange={(host) => set({ host })} onEnter={onEnter} />
      )}
      {group !== undefined && (
        <Field label="Address" help="The multicast group of this universe.">
          {(ids) => <input {...ids} value={form.host} readOnly className="font-mono text-[0.93em]" />}
        </Field>
      )}
      {form.through === '' && !local && group === undefined && (
        <AddressField
          value={form.host}
          onChange={(host) => set({ host })}
          onClean={({ host, port }) => set({ host, ...(port === undefined ? {} : { port }) })}
          onEnter={onEnter}
        />
      )}
      {!local && (
        <Field label={form.through === '' ? 'Port' : 'Port of the gateway'} error={wrong.port}>
          {(ids) => (
            <>
              <input
                {...ids}
                type="number"
                min={1}
                max={65535}
                required
                value={form.port}
                onBlur={() => onLeave('port')}
                onChange={(e) => set({ port: Number(e.target.value) })}
                className="font-mono text-[0.93em]"
              />
              <PortNote show={show} form={form} self={self} onTake={(port) => set({ port })} />
            </>
          )}
        </Field>
      )}
      {driver?.role === 'any' && (
        <Select
          label="Role"
          value={form.role}
          options={[{ value: 'any', title: 'none' }, ...deviceRoles.map((each) => ({ value: each, title: each }))]}
          onChoose={(role) => set({ role })}
        />
      )}
      <Field label="Tag" error={wrong.tag}>
        {(ids) => (
          <input
            {...ids}
            value={form.tag}
            required
            title="A letter first, then letters, digits or underscores, 16 at most"
            onBlur={() => onLeave('tag')}
            onChange={(e) => set({ tag: e.target.value })}
            className="font-mono text-[0.93em]"
          />
        )}
      </Field>
      <Field label="Name" error={wrong.name}>
        {(ids) => (
          <input
            {...ids}
            value={form.name}
            required
            maxLength={80}
            onBlur={() => onLeave('name')}
            onChange={(e) => set({ name: e.target.value })}
          />
        )}
      </Field>
      <Field label="Site">
        {(ids) => <input {...ids} value={form.site} maxLength={60} onChange={(e) => set({ site: e.target.value })} />}
      </Field>
      {used && signsIn(used) && (
        <>
          {signsInByName(used) && (
            <Field label="Sign-in name">
              {(ids) => (
                <input
                  {...ids}
                  value={form.user}
                  maxLength={80}
                  data-veil
                  autoComplete="off"
                  onChange={(e) => set({ user: e.target.value })}
                />
              )}
            </Field>
          )}
          <PasswordField
            label={signsInByName(used) ? 'Password' : 'Password or token'}
            value={password}
            hasPassword={hasPassword}
            wrong={wrong.password}
            onChange={onPassword}
          />
        </>
      )}
      {driver &&
        Object.entries(driver.options)
          .filter(([, { only }]) => fitsOptions(only, optionsOf(driver, form.options)))
          .map(([name, option]) => (
            <div key={name} className="grid gap-1">
              <ParamField
                param={{ title: option.title, value: option.value, sends: 'index', optional: false }}
                value={form.options[name] ?? option.default}
                onChange={(value) => value !== undefined && setOptions({ ...form.options, [name]: value })}
              />
              {option.help && <p className="text-[13px] text-ink-soft">{option.help}</p>}
              {faults[name] !== undefined && (
                <p className="text-[13px] font-semibold" role="alert">
                  {faults[name]}
                </p>
              )}
            </div>
          ))}
      {driver && form.through === '' && !local && (
        <HelperFields helpers={form.helpers ?? []} onChange={(helpers) => set({ helpers: [...helpers] })} />
      )}
      <Checkbox
        label="Switched on in this show"
        className="col-span-full"
        checked={form.enabled}
        onChange={(enabled) => set({ enabled })}
      />
      {driver && <DriverHelp help={driver.help} signIn={driver.signIn} />}
    </>
  );
}

/** Where this kind of device shows its address, how it signs in and what has to be switched on. */
function DriverHelp({ help, signIn }: Pick<DriverDocument, 'help' | 'signIn'>) {
  const usual =
    signIn &&
    `Without a name and password it signs in as devices of this kind come: ${signIn.user || 'without a name'}.`;
  const lines = [help.address, help.signIn, usual, help.switchOn, help.helpers].filter((line) => line !== undefined);
  if (lines.length === 0) return null;
  return (
    <ul className="col-span-full text-[13px] text-ink-soft">
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
