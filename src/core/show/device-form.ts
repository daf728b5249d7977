import type { DriverDocument } from '../driver';
import { cleanAddress, internalPlace, isInternalPlace } from '../net';
import { tagSchema, type DeviceRecord, type Helper, type ShowRecord } from './records';

/** What can be typed of a device, as it is typed. */
export type DeviceForm = Pick<
  DeviceRecord['data'],
  'tag' | 'name' | 'driver' | 'host' | 'port' | 'enabled' | 'site' | 'user' | 'options'
> & {
  /** Programs that must run beside it, besides those that its driver knows. */
  readonly helpers?: Helper[] | undefined;
  /** What kind of work it does, where its driver is one for any device. */
  readonly role: string;
  /** The id of the gateway that it is reached through, or `''`. */
  readonly through: string;
  /** Which of the gateway's ports, by its name in the gateway's driver. */
  readonly throughPort: string;
};

/** What stands for the address of a device that has none yet. */
export const withoutAddress = ({ data }: Pick<DeviceRecord, 'data'>): string =>
  isInternalPlace(data.host) ? data.host : '';

/** The port of a new device; 1 if the link has no ports. */
export const usualPort = ({ link }: DriverDocument): number => Math.max(1, link.port);

export function deviceFormOf({ data }: DeviceRecord): DeviceForm {
  const { tag, name, driver, role, host, port, enabled, site, user, options, helpers } = data;
  return {
    tag,
    name,
    driver,
    role,
    host,
    port,
    enabled,
    site,
    user,
    options,
    helpers,
    through: data.through?.device ?? '',
    throughPort: data.through?.port ?? '',
  };
}

/** The role of a device with this driver: the driver's own, or the one that was chosen. */
export const roleFor = (driver: Pick<DriverDocument, 'role'> | undefined, chosen: string): string =>
  driver && driver.role !== 'any' ? driver.role : chosen || 'any';

/** What of a device's document its name and its password can fill. */
const places = ({ greeting, questions, link }: DriverDocument): string =>
  JSON.stringify([greeting, questions, link.headers, link.headerText]);

/** True when the driver signs in with a name or a password, or with a password alone, such as a token. */
export const signsIn = (document: DriverDocument): boolean =>
  hasSignIn(document) || /\{(user|password)\}/.test(places(document));

/** The transport itself shows name and password. */
const hasSignIn = ({ link }: DriverDocument): boolean => link.auth !== 'none' || link.securityToken;

/** True when a name belongs to the sign-in. */
export const signsInByName = (document: DriverDocument): boolean =>
  hasSignIn(document) || places(document).includes('{user}');

/** The programs that must run beside a device: those of its driver, and those that the show adds. */
export const helpersOf = (
  document: DriverDocument | undefined,
  { helpers = [] }: Pick<DeviceRecord['data'], 'helpers'>,
): readonly Helper[] => [...(document?.helpers ?? []), ...helpers];

/** The device's data with the form's content. */
export function withDeviceForm(
  data: Omit<DeviceRecord['data'], 'role'>,
  form: DeviceForm,
  driver: (Pick<DriverDocument, 'role'> & { readonly link?: Pick<DriverDocument['link'], 'kind'> }) | undefined,
): DeviceRecord['data'] {
  const { through, throughPort, helpers = [], ...typed } = form;
  const { through: _through, helpers: _helpers, ...rest } = data;
  // A row without a name was added by mistake and is dropped.
  const named = helpers.filter(({ title }) => title.trim() !== '');
  // What cannot be understood stays as it was typed, and is refused where it is saved.
  const clean = cleanAddress(typed.host);
  const own = driver?.link?.kind === 'internal' ? internalPlace : undefined;
  const host = own ?? (through === '' ? (clean.ok ? clean.value.host : typed.host.trim()) : '');
  return {
    ...rest,
    ...typed,
    host,
    role: roleFor(driver, form.role),
    ...(named.length === 0 ? {} : { helpers: named }),
    ...(through === '' ? {} : { through: { device: through, port: throughPort } }),
  };
}

/** How a production calls its devices, by role; one that is not here by the first letters of its role. */
const tagLetters: Readonly<Record<string, string>> = {
  switcher: 'SW',
  camera: 'C',
  encoder: 'E',
  playout: 'R',
  audio: 'A',
  titles: 'T',
  gateway: 'G',
  screen: 'S',
  tally: 'M',
  any: 'D',
};

/** The first free tag of a role: `C1`, `SW2`. */
export function freeTag(role: string, taken: Iterable<string>): string {
  const known = new Set([...taken].map((tag) => tag.toUpperCase()));
  const letters = tagLetters[role] ?? role.slice(0, 3).toUpperCase();
  for (let n = 1; ; n += 1) if (!known.has(`${letters}${n}`)) return `${letters}${n}`;
}

/** What is wrong with what was typed, field by field, in words; a field that is not named is well. */
type DeviceFormProblems = Partial<Record<'tag' | 'name' | 'port' | 'password', string>>;

/**
 * Looks at a form before it is saved.
 *
 * @param self the device itself, whose own tag is not a double of it
 * @param password what was typed as a new one; `undefined` when none was
 */
export function deviceFormProblems(
  { tag, name, port }: Pick<DeviceForm, 'tag' | 'name' | 'port'>,
  records: readonly ShowRecord[],
  self: string | undefined,
  password: string | undefined,
): DeviceFormProblems {
  const twin = records.find(
    (record): record is DeviceRecord =>
      record.kind === 'device' && record.id !== self && record.data.tag.toUpperCase() === tag.toUpperCase(),
  );
  const badTag = twin
    ? `${twin.data.name} has the tag ${twin.data.tag} already.`
    : tagSchema.safeParse(tag).success
      ? undefined
      : 'A letter first, then letters, digits or underscores, 16 at most.';
  return {
    ...(badTag === undefined ? {} : { tag: badTag }),
    ...(name.trim() === '' ? { name: 'A device needs a name.' } : {}),
    ...(Number.isInteger(port) && port >= 1 && port <= 65_535
      ? {}
      : { port: 'A port is a whole number from 1 to 65535.' }),
    ...(password !== undefined && /[\r\n\0]/.test(password)
      ? { password: 'A password cannot contain a line break.' }
      : {}),
  };
}
