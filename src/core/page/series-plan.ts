import type { DriverDocument } from '../driver';
import { fail, ok, type Result, type Scalar } from '../result';
import type { Among, ControlRecord, Edit, PageRecord } from '../show';
import type { Area } from './area';
import {
  countablesOf,
  countFrom,
  dealEdit,
  listedValues,
  mostInSeries,
  nextCells,
  seriesCells,
  type Countable,
} from './series';

/** What somebody has set for a series that is not dealt yet. */
export interface SeriesDraft {
  /** The area to fill, beginning with the control; just the control while none was drawn. */
  readonly over: Area;
  readonly param: string;
  /** `list`: over what the device lists, from the control's own value on. `count`: from, to and step. */
  readonly how: 'list' | 'count';
  readonly from: number;
  /** `undefined`: as many as there are cells. */
  readonly to: number | undefined;
  readonly step: number;
  readonly by: 'rows' | 'columns';
  /** Only over these of what the device lists. */
  readonly among?: Among | undefined;
}

interface SeriesPlan {
  readonly values: readonly Scalar[];
  readonly members: readonly ControlRecord[];
  readonly edit: Edit;
  /** Values for which there is no cell. */
  readonly left: number;
}

type Readings = Readonly<Record<string, { readonly value?: Scalar }>>;

/** What a series starts with: the parameter that the device lists, if there is one, and its own value. */
export function startSeries(control: ControlRecord, document: DriverDocument | undefined): SeriesDraft | undefined {
  const countables = countablesOf(control.data, document);
  const first = countables.find(({ definition }) => definition.listFrom !== undefined) ?? countables[0];
  if (!first) return undefined;
  const { col, row, cols, rows } = control.data;
  const base = { over: { col, row, cols, rows }, to: undefined, step: 1, by: 'rows' } as const;
  return { ...base, ...seriesOver(first) };
}

/** The settings that another parameter wants. */
export const seriesOver = ({ param, definition, now }: Countable): Pick<SeriesDraft, 'param' | 'how' | 'from'> => ({
  param,
  how: definition.listFrom !== undefined || definition.value.type === 'choice' ? 'list' : 'count',
  from: typeof now === 'number' ? now : 0,
});

/** What dealing a series would make now; or, in a sentence, why it would make nothing. */
export function planSeries(
  page: PageRecord,
  control: ControlRecord,
  controls: readonly ControlRecord[],
  draft: SeriesDraft,
  document: DriverDocument | undefined,
  readings: Readings,
  newId: (kind: 'ctl') => string,
): Result<SeriesPlan, string> {
  const countable = countablesOf(control.data, document).find(({ param }) => param === draft.param);
  if (!countable) return fail('This control sends nothing that a series could count.');
  const taken = controls.map(({ data }) => data);
  const drawn = draft.over.cols > control.data.cols || draft.over.rows > control.data.rows;
  const drawnCells = seriesCells(control.data, draft.over, draft.by, taken);
  const values = valuesOf(draft, countable, readings, drawnCells.length + 1);
  if (!values.ok) return values;
  const cells = drawn ? drawnCells : nextCells(page, control.data, taken, values.value.length - 1);
  const { among } = draft;
  const deal = { cells, values: values.value, param: draft.param, among: draft.how === 'list' ? among : undefined };
  const made = dealEdit(page, control, controls, deal, document, newId);
  if (!made.ok) return made;
  const { members, edit } = made.value;
  return ok({ values: values.value, members, edit, left: values.value.length - members.length });
}

function valuesOf(
  { how, from, to, step, among }: SeriesDraft,
  { definition, now }: Countable,
  readings: Readings,
  room: number,
): Result<readonly Scalar[], string> {
  if (how === 'count') {
    const end = to ?? from + (Math.min(room, mostInSeries) - 1) * step;
    return countFrom(from, end, step);
  }
  const listed = listedValues(definition, readings, among);
  if (listed.length === 0)
    return fail('The device lists nothing for this now. Count from a number to a number instead.');
  // Over a folder from its beginning, whichever of it the control calls.
  return ok(among ? listed : listed.slice(Math.max(0, listed.indexOf(now))));
}
