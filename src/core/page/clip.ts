import { z } from 'zod';
import { fail, ok, type Result } from '../result';
import {
  controlDataSchema,
  controlsOf,
  devicesOf,
  hideOn,
  idSchema,
  panelsHiding,
  withDevices,
  type ControlRecord,
  type DeviceRecord,
  type Edit,
  type PageRecord,
  type RecordChange,
  type ShowRecord,
} from '../show';
import { parseJson } from '../wire';
import { boundsOf, type Cell } from './area';
import { inOrder, placeFor } from './arrange';

/**
 * Controls on the clipboard, as text: JSON with the controls, their places counted from the left upper one, and what the
 * devices that they name are, so that another window or another show can find its own.
 */
const clipFormat = 'sorrelfinch-controls';

/** What of a device tells which one is meant elsewhere. Its address stays where it is. */
export const deviceMentionSchema = z.strictObject({
  id: idSchema,
  tag: z.string().max(16),
  name: z.string().max(80),
  role: z.string().max(20),
  driver: z.string().max(64),
});
export type DeviceMention = z.infer<typeof deviceMentionSchema>;

const clipSchema = z.strictObject({
  format: z.literal(clipFormat),
  version: z.literal(1),
  devices: z.array(deviceMentionSchema).max(2000),
  controls: z
    .array(
      controlDataSchema.omit({ page: true }).extend({
        /** The panels of its show on which it is hidden. */
        hiddenOn: z.array(idSchema).max(200).optional(),
      }),
    )
    .min(1)
    .max(2000),
});
type Clip = z.infer<typeof clipSchema>;

export const mentionOf = ({ id, data }: DeviceRecord): DeviceMention => ({
  id,
  tag: data.tag,
  name: data.name,
  role: data.role,
  driver: data.driver,
});

/** What is put on the clipboard. */
export function clipText(records: readonly ShowRecord[], controls: readonly ControlRecord[]): string {
  const bounds = boundsOf(controls.map(({ data }) => data)) ?? { col: 0, row: 0, cols: 1, rows: 1 };
  const named = new Set(controls.flatMap(({ data }) => devicesOf(data)));
  const clip: Clip = {
    format: clipFormat,
    version: 1,
    devices: records.flatMap((record) => (record.kind === 'device' && named.has(record.id) ? [mentionOf(record)] : [])),
    controls: inOrder(
      controls.map(({ id, data }) => {
        const hiddenOn = panelsHiding(records, id);
        return { ...data, ...(hiddenOn.length > 0 ? { hiddenOn } : {}) };
      }),
    ).map(({ page: _, ...data }) => ({
      ...data,
      col: data.col - bounds.col,
      row: data.row - bounds.row,
    })),
  };
  return JSON.stringify(clip, null, 1);
}

/** Reads a text of the clipboard. A text that is not controls of ours is refused with a sentence that says so. */
export function readClip(text: string): Result<Clip, string> {
  const json = text.trimStart().startsWith('{') ? parseJson(text) : undefined;
  const format = json?.ok && typeof json.value === 'object' && json.value !== null ? json.value : {};
  if (!json?.ok || !('format' in format) || format.format !== clipFormat) {
    const start = text.trim().slice(0, 30);
    return fail(
      start === ''
        ? 'The clipboard has no text. Copy controls first.'
        : `The clipboard holds other text (“${start}${text.trim().length > 30 ? '…' : ''}”), not controls. Copy controls first.`,
    );
  }
  const clip = clipSchema.safeParse(json.value);
  if (clip.success) return ok(clip.data);
  const [issue] = clip.error.issues;
  return fail(`The controls on the clipboard are damaged: ${issue?.path.join('.') ?? ''} ${issue?.message ?? ''}.`);
}

/**
 * Which device of this rig each device of a clip or file most likely is: the same one, else one of the same driver with the
 * same tag or name, else the only one of that driver that is not meant already. One for which there is none is left out.
 */
export function guessDevices(mentions: readonly DeviceMention[], rig: readonly DeviceRecord[]): Map<string, string> {
  const found = new Map<string, string>();
  const alike = (mention: DeviceMention) => rig.filter(({ data }) => data.driver === mention.driver);
  for (const mention of mentions) {
    const same =
      rig.find(({ id }) => id === mention.id) ??
      alike(mention).find(({ data }) => data.tag.toUpperCase() === mention.tag.toUpperCase()) ??
      alike(mention).find(({ data }) => data.name.toUpperCase() === mention.name.toUpperCase());
    if (same) found.set(mention.id, same.id);
  }
  for (const mention of mentions) {
    if (found.has(mention.id)) continue;
    const meant = new Set(found.values());
    const [only, ...others] = alike(mention).filter(({ id }) => !meant.has(id));
    if (only && others.length === 0) found.set(mention.id, only.id);
  }
  return found;
}

/**
 * Puts the controls of a clip on a page, at a cell or at the next place where all of them fit as they lie. Devices are those
 * of this rig; a control whose device is not here comes all the same and says so.
 */
export function pasteEdit(
  records: readonly ShowRecord[],
  page: PageRecord,
  clip: Clip,
  at: Cell,
  newId: (kind: 'ctl') => string,
): Result<{ readonly edit: Edit; readonly ids: readonly string[] }, string> {
  const own = controlsOf(records, page.id);
  const devices = guessDevices(
    clip.devices,
    records.filter((record) => record.kind === 'device'),
  );
  const place = placeFor(
    page.data,
    own.map(({ data }) => data),
    clip.controls,
    at,
  );
  if (!place.ok) return place;
  const series = new Map<string, string>();
  const hidden = new Map<string, readonly string[]>();
  const added = clip.controls.map(({ hiddenOn = [], ...data }): ControlRecord => {
    const id = newId('ctl');
    hidden.set(id, hiddenOn);
    const mapped = withDevices(data, (device) => devices.get(device) ?? device);
    // A copied run is a run of its own.
    const of = data.series && (series.get(data.series.id) ?? newId('ctl'));
    if (data.series && of) series.set(data.series.id, of);
    return {
      kind: 'control',
      id,
      version: 1,
      data: {
        ...mapped,
        page: page.id,
        col: data.col + place.value.col,
        row: data.row + place.value.row,
        ...(data.series && of ? { series: { ...data.series, id: of } } : {}),
      },
    };
  });
  const hiding = hideOn(records, hidden);
  const rows = Math.max(page.data.rows, ...added.map(({ data }) => data.row + data.rows));
  const changes: RecordChange[] = [...added.map((record): RecordChange => ({ op: 'add', record })), ...hiding];
  if (rows > page.data.rows) changes.push({ op: 'update', from: page, to: { ...page, data: { ...page.data, rows } } });
  return ok({
    ids: added.map(({ id }) => id),
    edit: { title: added.length === 1 ? 'Paste a control' : `Paste ${added.length} controls`, changes },
  });
}
