import Papa from 'papaparse';
import { documentFor, type DriverDocument } from '../driver';
import { cleanAddress } from '../net';
import { inNumberOrder } from '../number-order';
import type { Problem } from '../result';
import { driverOfText } from './driver-search';
import { signsIn, usualPort } from './device-form';
import { tagSchema, type DeviceRecord, type ShowRecord } from './records';

/** The columns of a rig as a table, in their order. Known by these words in a heading; without one, by their place. */
export const tableColumns = ['tag', 'name', 'driver', 'address', 'port', 'user', 'password'] as const;
type Column = (typeof tableColumns)[number];

/** One row of a pasted table, and what it becomes. */
export interface TableRow {
  /** The line in what was pasted, from 1. */
  readonly line: number;
  readonly cells: Readonly<Record<Column, string>>;
  /** What is wrong, by column. A row with any is left out. */
  readonly problems: readonly Problem[];
  /** What was understood another way than it was typed. */
  readonly changes: readonly string[];
  readonly device: DeviceRecord['data'] | undefined;
  readonly password: string | undefined;
  /** The device of the rig with this tag, which the row changes. */
  readonly replaces: DeviceRecord | undefined;
}

const maxTableRows = 500;

/** Reads a table as it comes from a spreadsheet (tabs) or a file (commas or semicolons). Every row is told; nothing is entered. */
export function readRigTable(
  text: string,
  drivers: readonly DriverDocument[],
  records: readonly ShowRecord[],
): readonly TableRow[] {
  const { data } = Papa.parse<string[]>(text, { delimitersToGuess: ['\t', ';', ','], skipEmptyLines: 'greedy' });
  const [first = []] = data;
  const heading = first.map((cell) => columnOf(cell));
  const headed = heading.includes('tag') || heading.includes('address');
  const columns: readonly (Column | undefined)[] = headed ? heading : tableColumns;
  const known = records.filter((record): record is DeviceRecord => record.kind === 'device');
  const used = new Map<string, number>();
  return data.slice(headed ? 1 : 0, maxTableRows).map((row, n): TableRow => {
    const line = n + (headed ? 2 : 1);
    const cells = Object.fromEntries(
      tableColumns.map((column) => [column, row[columns.indexOf(column)]?.trim() ?? '']),
    ) as Record<Column, string>;
    // A password keeps its spaces.
    cells.password = row[columns.indexOf('password')] ?? '';
    return readRow(line, cells, drivers, known, used);
  });
}

const words: Readonly<Record<string, Column>> = {
  tag: 'tag',
  name: 'name',
  driver: 'driver',
  type: 'driver',
  address: 'address',
  ip: 'address',
  host: 'address',
  'ip address': 'address',
  port: 'port',
  user: 'user',
  'sign-in name': 'user',
  password: 'password',
};
const columnOf = (cell: string): Column | undefined => words[cell.trim().toLowerCase()];

function readRow(
  line: number,
  cells: Readonly<Record<Column, string>>,
  drivers: readonly DriverDocument[],
  known: readonly DeviceRecord[],
  used: Map<string, number>,
): TableRow {
  const problems: Problem[] = [];
  const say = (path: Column, message: string) => void problems.push({ path, message });
  const replaces = known.find(({ data }) => data.tag.toUpperCase() === cells.tag.toUpperCase());
  const before = replaces?.data;
  const tag = tagSchema.safeParse(cells.tag);
  if (!tag.success) say('tag', tag.error.issues[0]?.message ?? 'no tag');
  const earlier = used.get(cells.tag.toUpperCase());
  if (earlier !== undefined) say('tag', `line ${earlier} has this tag already`);
  used.set(cells.tag.toUpperCase(), line);
  if (cells.name.length > 80) say('name', 'at most 80 characters');
  const found =
    cells.driver === '' ? drivers.find(({ id }) => id === before?.driver) : driverOfText(drivers, cells.driver);
  if (!found)
    say('driver', cells.driver === '' ? 'which driver?' : `no single driver here is called “${cells.driver}”`);
  const address = cleanAddress(cells.address);
  if (!address.ok) say('address', address.error);
  const changes = address.ok ? [...address.value.changes] : [];
  const typedPort = cells.port === '' ? undefined : Number(cells.port);
  if (typedPort !== undefined && (!Number.isInteger(typedPort) || typedPort < 1 || typedPort > 65_535)) {
    say('port', 'a whole number from 1 to 65535');
  }
  if (/[\r\n\0]/.test(cells.password)) say('password', 'a password cannot contain a line break');
  if (cells.password !== '' && found && !signsIn(documentFor(found, {})))
    changes.push('this kind of device needs no password; it is kept all the same');
  const base = {
    line,
    cells,
    problems,
    changes,
    replaces,
    password: cells.password === '' ? undefined : cells.password,
  };
  if (problems.length > 0 || !found || !address.ok) return { ...base, device: undefined };
  const { through: _, ...rest } = before ?? {};
  const host = cells.address === '' ? (before?.host ?? '') : address.value.host;
  const keepsThrough = cells.address === '' && before?.through ? { through: before.through } : {};
  return {
    ...base,
    device: {
      enabled: true,
      site: '',
      options: {},
      ...rest,
      ...keepsThrough,
      tag: cells.tag,
      name: cells.name || before?.name || found.title,
      role: found.role,
      driver: found.id,
      host,
      port: typedPort ?? address.value.port ?? before?.port ?? usualPort(found),
      user: cells.user || (before?.user ?? ''),
    },
  };
}

/** The rig as a table for a spreadsheet, with a heading and tabs. Passwords are never in it. */
export function rigTable(records: readonly ShowRecord[]): string {
  const rows = records
    .filter((record): record is DeviceRecord => record.kind === 'device')
    .sort((a, b) => inNumberOrder(a.data.tag, b.data.tag))
    .map(({ data }) => [data.tag, data.name, data.driver, data.host, data.through ? '' : String(data.port), data.user]);
  return Papa.unparse([tableColumns.slice(0, 6), ...rows], { delimiter: '\t', newline: '\n', escapeFormulae: true });
}
