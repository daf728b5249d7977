import type { DriverDocument } from '../driver';
import { cleanAddress } from '../net';
import type { DeviceRecord } from './records';

/** What can be typed of a device, as it is typed. */
export type DeviceForm = Pick<
  DeviceRecord['data'],
  'tag' | 'name' | 'driver' | 'host' | 'port' | 'enabled' | 'site' | 'user' | 'options'
> & {
  /** The id of the gateway that it is reached through, or `''`. */
  readonly through: string;
  /** Which of the gateway's ports, by its name in the gateway's driver. */
  readonly throughPort: string;
};

export function deviceFormOf({ data }: DeviceRecord): DeviceForm {
  const { tag, name, driver, host, port, enabled, site, user, options } = data;
  return {
    tag,
    name,
    driver,
    host,
    port,
    enabled,
    site,
    user,
    options,
    through: data.through?.device ?? '',
    throughPort: data.through?.port ?? '',
  };
}

/** True when the driver signs in with a name or a password. */
export function signsIn(document: DriverDocument): boolean {
  return (
    document.link.auth !== 'none' || /\{(user|password)\}/.test(JSON.stringify([document.greeting, document.questions]))
  );
}

/** The device's data with the form's content. */
export function withDeviceForm(data: DeviceRecord['data'], form: DeviceForm, role: string): DeviceRecord['data'] {
  const { through, throughPort, ...typed } = form;
  const { through: _, ...rest } = data;
  // What cannot be understood stays as it was typed, and is refused where it is saved.
  const clean = cleanAddress(typed.host);
  const host = through === '' ? (clean.ok ? clean.value.host : typed.host.trim()) : '';
  return {
    ...rest,
    ...typed,
    host,
    role,
    ...(through === '' ? {} : { through: { device: through, port: throughPort } }),
  };
}

/** The first free tag of a role: `CAM1`, `CAM2`. */
export function freeTag(role: string, taken: Iterable<string>): string {
  const known = new Set([...taken].map((tag) => tag.toUpperCase()));
  const letters = role.slice(0, 3).toUpperCase();
  for (let n = 1; ; n += 1) if (!known.has(`${letters}${n}`)) return `${letters}${n}`;
}
