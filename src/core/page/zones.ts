import { fail, ok, type Result } from '../result';
import {
  controlsOf,
  hideOn,
  panelsHiding,
  type ControlRecord,
  type Edit,
  type PageRecord,
  type RecordChange,
  type ShowRecord,
  type Zone,
} from '../show';
import { contains, overlaps, zoneOf, type Area } from './area';
import { placeFor } from './arrange';
import { madeFor, type KnownDevices } from './context';
import { changePageEdit } from './page-edits';

/** The controls of a zone. */
export const controlsOfZone = (page: PageRecord, zone: Zone, controls: readonly ControlRecord[]): ControlRecord[] =>
  controls.filter(({ data }) => zoneOf(page.data.zones, data)?.id === zone.id);

/** Makes a zone of an area, or gives one another area or title. Zones do not overlap. */
export function putZoneEdit(page: PageRecord, zone: Zone): Result<Edit, string> {
  const others = page.data.zones.filter(({ id }) => id !== zone.id);
  const inTheWay = others.find((other) => overlaps(other, zone));
  if (inTheWay) return fail(`The zone “${inTheWay.title}” lies there. Zones do not overlap.`);
  if (!contains({ col: 0, row: 0, cols: page.data.columns, rows: page.data.rows }, zone))
    return fail('A zone lies within its page.');
  const known = others.length < page.data.zones.length;
  const zones = known ? page.data.zones.map((each) => (each.id === zone.id ? zone : each)) : [...others, zone];
  return ok(changePageEdit(page, { zones }, `${known ? 'Change' : 'Add'} zone ${zone.title}`));
}

/** Takes a zone's frame away; its controls stay where they are. */
export const removeZoneEdit = (page: PageRecord, zone: Zone): Edit =>
  changePageEdit(page, { zones: page.data.zones.filter(({ id }) => id !== zone.id) }, `Remove zone ${zone.title}`);

/**
 * A zone with its controls once more, for another device of the same kind: whatever is about the one is about the other in
 * the copy. It lies at the first place where it fits; the page grows for it.
 */
export function copyZoneEdit(
  records: readonly ShowRecord[],
  page: PageRecord,
  zone: Zone,
  swap: { readonly from: string; readonly to: string } | undefined,
  title: string,
  newId: (kind: 'zone' | 'ctl') => string,
  devices: KnownDevices,
): Result<{ readonly edit: Edit; readonly zone: Zone }, string> {
  const controls = controlsOf(records, page.id);
  const own = controlsOfZone(page, zone, controls);
  const taken: Area[] = [...controls.map(({ data }) => data), ...page.data.zones];
  const block = { col: 0, row: 0, cols: zone.cols, rows: zone.rows };
  const place = placeFor(page.data, taken, [block], { col: 0, row: zone.row });
  if (!place.ok) return fail(place.error);
  const by = { col: place.value.col - zone.col, row: place.value.row - zone.row };
  const copy: Zone = { ...zone, id: newId('zone'), title, col: place.value.col, row: place.value.row };
  const rows = Math.max(page.data.rows, copy.row + copy.rows);
  const hidden = new Map<string, readonly string[]>();
  const changes: RecordChange[] = [
    {
      op: 'update',
      from: page,
      to: { ...page, data: { ...page.data, rows, zones: [...page.data.zones, copy] } },
    },
    ...own.map((control): RecordChange => {
      const data = swap ? madeFor(control.data, swap.from, swap.to, devices) : control.data;
      const { series: _, ...rest } = data;
      const { sets } = data;
      // Its pick buttons pick in the copy.
      const own = sets && 'zone' in sets && sets.zone === zone.id ? { sets: { ...sets, zone: copy.id } } : {};
      const id = newId('ctl');
      hidden.set(id, panelsHiding(records, control.id));
      return {
        op: 'add',
        record: {
          ...control,
          id,
          version: 1,
          data: { ...rest, ...own, col: data.col + by.col, row: data.row + by.row },
        },
      };
    }),
  ];
  changes.push(...hideOn(records, hidden));
  return ok({ zone: copy, edit: { title: `Copy zone ${zone.title}`, changes } });
}
