import { askedParams, memberKey, splitKey, type DriverDocument, type DriverParameter } from '../driver';
import { fail, ok, type Result, type Scalar } from '../result';
import {
  type Among,
  isHeld,
  mapConditionArguments,
  mapReadings,
  mapSends,
  resolveArgument,
  valueNameOf,
  type SentArgument,
  type ControlRecord,
  type Edit,
  type LabelSegment,
  type PageRecord,
  type RecordChange,
  type SendSpec,
} from '../show';
import { areaAt, cellsOf, mostCells, overlaps, type Area, type Cell } from './area';
import { inOrder } from './arrange';

/**
 * A series: a run of controls dealt out from one, in which one value counts. The value is the control's own, and label,
 * response and lamps all use it, so that they count together and cannot drift apart.
 */

type Data = ControlRecord['data'];

/** A parameter of a control's first command that can count. */
export interface Countable {
  /** The parameter's name. */
  readonly param: string;
  readonly title: string;
  readonly definition: DriverParameter;
  readonly now: Scalar;
}

/** What can count in a control: the parameters of its first command that are numbers, choices or picked from a list. */
export function countablesOf(data: Data, document: DriverDocument | undefined): Countable[] {
  const send = firstSend(data);
  const command = send && document?.commands[send.command];
  return askedParams(command).flatMap(([param, definition]) => {
    const argument = send?.params[param];
    const now = argument === undefined ? definition.default : resolveArgument(argument, data.values);
    const counts =
      definition.listFrom !== undefined || ['whole', 'decimal', 'choice', 'time'].includes(definition.value.type);
    return counts && now !== undefined ? [{ param, title: definition.title, definition, now }] : [];
  });
}

/** The command whose parameters are the control's own values: the first of its response, or that of a fader or dial. */
export const firstSend = (data: Data): SendSpec | undefined =>
  data.range?.send ?? (isHeld(data) ? data.responses.held : data.responses.tap)?.[0];

/** The values from one number to another, both included, in steps; at most as many as a page has cells in a row and column. */
export function countFrom(from: number, to: number, step: number): Result<Scalar[], string> {
  if (!Number.isFinite(from) || !Number.isFinite(to) || !Number.isFinite(step))
    return fail('From, to and step are numbers.');
  if (step === 0) return fail('The step cannot be 0.');
  const by = Math.abs(step) * (to < from ? -1 : 1);
  const count = Math.floor(Math.abs((to - from) / by) + 1e-9) + 1;
  if (count > mostInSeries) return fail(`A series has at most ${mostInSeries} controls; this would be ${count}.`);
  return ok(Array.from({ length: count }, (_, n) => Math.round((from + n * by) * 1e6) / 1e6));
}

export const mostInSeries = 400;

/** The values that a device lists for a parameter now, in its order: the index or the name, as the parameter sends it. */
export function listedValues(
  definition: DriverParameter,
  readings: Readonly<Record<string, { readonly value?: Scalar }>>,
  among?: Among,
): Scalar[] {
  if (definition.value.type === 'choice') return definition.value.choices.map(({ value }) => value);
  const members = Object.entries(readings).flatMap(([key, { value }]) => {
    const { family, index } = splitKey(key);
    if (family !== definition.listFrom || index === undefined || value === undefined || value === '') return [];
    return among && readings[memberKey(among.reading, index)]?.value !== among.is ? [] : [{ index, value }];
  });
  members.sort((a, b) => a.index - b.index);
  return members.map(({ index, value }) => (definition.sends === 'value' ? value : index));
}

/**
 * The control with a parameter of its first command made a value of its own, which label, lamps and further commands use
 * wherever they were about the same: a lamp on the same number, a reading of the same member, the number in the label.
 */
export function withValue(data: Data, param: string, document: DriverDocument | undefined): Data {
  const send = firstSend(data);
  const argument = send?.params[param] ?? document?.commands[send?.command ?? '']?.params[param]?.default;
  if (!send || argument === undefined || typeof argument === 'object') return data;
  const name = freeValueName(data, param);
  const tie = <A extends SentArgument>(each: A): A | { value: string } => (each === argument ? { value: name } : each);
  const key = (device: string, text: string): string => {
    const { family, index } = splitKey(text);
    return device === send.device && index === argument ? memberKey(family, `$${name}`) : text;
  };
  const tied = mapSends(data, (each) => {
    if (each === send) return { ...each, params: { ...each.params, [param]: { value: name } } };
    const value = each.params[param];
    const same = each.command === send.command && value !== undefined;
    return same ? { ...each, params: { ...each.params, [param]: tie(value) } } : each;
  });
  const shown = mapReadings(tied, (ref) => ({ ...ref, key: key(ref.device, ref.key) }));
  return {
    ...shown,
    values: { ...data.values, [name]: argument },
    label: shown.label.flatMap((segment) => ('text' in segment ? withNumber(segment.text, argument, name) : [segment])),
    lamps: shown.lamps.map((rule) => ({
      ...rule,
      when: mapConditionArguments(rule.when, (to, { device }) => (device === send.device ? tie(to) : to)),
    })),
  };
}

/** A name for a value that the control does not have yet, after what it is for. */
export function freeValueName(data: Data, param: string): string {
  const stem = /^[a-z][A-Za-z0-9]*$/.test(param) ? param : 'value';
  let name = stem;
  for (let n = 2; name in data.values; n += 1) name = `${stem}${n}`;
  return name;
}

/** The text with the counting value standing by itself made to count: “Camera 1” becomes “Camera ” and the value. */
function withNumber(text: string, value: Scalar, name: string): LabelSegment[] {
  const word = String(value);
  const at = text.search(
    new RegExp(`(?<![\\p{L}\\p{N}.])${word.replace(/[^\p{L}\p{N}]/gu, '\\$&')}(?![\\p{L}\\p{N}.])`, 'u'),
  );
  if (at === -1 || word === '') return [{ text }];
  const parts: LabelSegment[] = [{ text: text.slice(0, at) }, { value: name }, { text: text.slice(at + word.length) }];
  return parts.filter((part) => !('text' in part) || part.text !== '');
}

/** The value of a control that is the given parameter of its first command, once `withValue` has made it one. */
function valueOfParam(data: Data, param: string): string | undefined {
  return valueNameOf(firstSend(data)?.params[param]);
}

interface Deal {
  /** Left upper cells for the controls after the first, in order; as many as there are values after the first, or fewer. */
  readonly cells: readonly Cell[];
  /** The values of all of them; the first is given to the control that is there. */
  readonly values: readonly Scalar[];
  readonly param: string;
  /** It is dealt on with these only. */
  readonly among?: Among | undefined;
}

/**
 * Deals a series: the control itself becomes its first member, the others are added. One edit, so that one undo takes it all
 * back. Cells on which something else lies are refused.
 */
export function dealEdit(
  page: PageRecord,
  control: ControlRecord,
  controls: readonly ControlRecord[],
  { cells, values, param, among }: Deal,
  document: DriverDocument | undefined,
  newId: (kind: 'ctl') => string,
): Result<{ readonly edit: Edit; readonly members: readonly ControlRecord[] }, string> {
  const data = withValue(control.data, param, document);
  const name = valueOfParam(data, param);
  const [first, ...others] = values;
  if (name === undefined) return fail('This control sends nothing that a series could count.');
  if (first === undefined) return fail('The device lists nothing for a series.');
  const count = Math.min(others.length, cells.length);
  if (count === 0) return fail('No cells are chosen yet. Drag over the cells that the series should fill.');
  const series = { id: newId('ctl'), value: name, ...(among ? { among } : {}) };
  const member = (value: Scalar): Data => ({ ...data, values: { ...data.values, [name]: value }, series });
  const added = others.slice(0, count).map((value, n): ControlRecord => ({
    kind: 'control',
    id: newId('ctl'),
    version: 1,
    data: { ...member(value), ...areaAt(data, cells[n] ?? data) },
  }));
  return finish(page, controls, control, member(first), added, `Deal a series of ${count + 1}`);
}

function finish(
  page: PageRecord,
  controls: readonly ControlRecord[],
  first: ControlRecord,
  firstData: Data,
  added: readonly ControlRecord[],
  title: string,
): Result<{ readonly edit: Edit; readonly members: readonly ControlRecord[] }, string> {
  const rows = Math.max(page.data.rows, ...added.map(({ data }) => data.row + data.rows));
  if (rows > mostCells) return fail(`A page has at most ${mostCells} rows.`);
  if (added.some(({ data }) => data.col + data.cols > page.data.columns))
    return fail('The page ends before the series does.');
  if (added.some(({ data }) => controls.some((other) => overlaps(other.data, data))))
    return fail('Other controls lie on these cells. Choose free ones.');
  const head: ControlRecord = { ...first, data: firstData };
  const changes: RecordChange[] = [
    ...(firstData === first.data ? [] : [{ op: 'update' as const, from: first, to: head }]),
    ...added.map((record): RecordChange => ({ op: 'add', record })),
  ];
  if (rows > page.data.rows) changes.push({ op: 'update', from: page, to: { ...page, data: { ...page.data, rows } } });
  return ok({ members: [head, ...added], edit: { title, changes } });
}

/**
 * The left upper cells that a series fills in an area that begins with its first control, the first left out: one after the
 * other in rows or columns, each as large as the first. Cells on which something lies are passed over.
 */
export function seriesCells(first: Area, over: Area, by: 'rows' | 'columns', taken: readonly Area[]): Cell[] {
  const across = Math.max(1, Math.floor(over.cols / first.cols));
  const down = Math.max(1, Math.floor(over.rows / first.rows));
  return cellsOf({ col: 0, row: 0, cols: across, rows: down }, by)
    .map(({ col, row }) => ({ col: over.col + col * first.cols, row: over.row + row * first.rows }))
    .filter((cell) => {
      const area = areaAt(first, cell);
      return !overlaps(area, first) && !taken.some((each) => overlaps(each, area));
    });
}

/** Where a series of so many controls goes when no cells were chosen: the next free ones, row by row, down to the end of the page or beyond. */
export function nextCells(page: PageRecord, first: Area, taken: readonly Area[], count: number): Cell[] {
  const { columns } = page.data;
  const cells: Cell[] = [];
  const used: Area[] = [...taken];
  for (let row = first.row; row + first.rows <= mostCells && cells.length < count; row += 1) {
    for (let col = row === first.row ? first.col : 0; col + first.cols <= columns && cells.length < count; col += 1) {
      const area = areaAt(first, { col, row });
      if (overlaps(area, first) || used.some((each) => overlaps(each, area))) continue;
      used.push(area);
      cells.push({ col, row });
    }
  }
  return cells;
}

/** The members of the series that a control belongs to, as they lie on the page. */
export const membersOf = (control: ControlRecord, controls: readonly ControlRecord[]): ControlRecord[] => {
  const { series } = control.data;
  if (!series) return [];
  return inOrder(
    controls.filter(({ data }) => data.series?.id === series.id).map((each) => ({ ...each.data, each })),
  ).map(({ each }) => each);
};

/** The values of a device's list that no member of a series has yet. */
export function missingValues(members: readonly ControlRecord[], listed: readonly Scalar[]): Scalar[] {
  const name = members[0]?.data.series?.value;
  const have = new Set(members.map(({ data }) => (name === undefined ? undefined : data.values[name])));
  return listed.filter((value) => !have.has(value));
}

/** The members of a series whose value the device does not list any more; none where it lists nothing that is known. */
export function goneMembers(members: readonly ControlRecord[], listed: readonly Scalar[]): ControlRecord[] {
  const name = members[0]?.data.series?.value;
  if (name === undefined || listed.length === 0) return [];
  return members.filter(({ data }) => !listed.some((value) => value === data.values[name]));
}

/** Deals a series on: one more control for each value that is missing, on the next free cells after the last member. */
export function dealOnEdit(
  page: PageRecord,
  controls: readonly ControlRecord[],
  members: readonly ControlRecord[],
  missing: readonly Scalar[],
  newId: (kind: 'ctl') => string,
): Result<{ readonly edit: Edit; readonly members: readonly ControlRecord[] }, string> {
  const last = members.at(-1);
  const name = last?.data.series?.value;
  if (!last || name === undefined || missing.length === 0) return fail('This series is complete.');
  const taken = controls.map(({ data }) => data);
  const cells = nextCells(page, last.data, taken, missing.length);
  if (cells.length < missing.length) return fail(`There is no room left: a page has at most ${mostCells} rows.`);
  const added = missing.map((value, n): ControlRecord => ({
    kind: 'control',
    id: newId('ctl'),
    version: 1,
    data: {
      ...last.data,
      ...areaAt(last.data, cells[n] ?? last.data),
      values: { ...last.data.values, [name]: value },
    },
  }));
  return finish(page, controls, last, last.data, added, `Deal ${missing.length} more`);
}
