import { zoneOf } from './area';
import { valueText, type DriverDocument } from '../driver';
import { formatLabel } from '../face';
import { liveText } from '../lamp';
import {
  isHeld,
  isLive,
  resolveArgument,
  sendsOfControl,
  type ControlRecord,
  type PageRecord,
  type SendSpec,
} from '../show';
import { inOrder } from './arrange';
import { ruleText } from './rule-text';

/** One control of a page written out, for people who read it on paper. */
interface SheetRow {
  readonly id: string;
  /** Column and row, counted from 1: `B3`. */
  readonly place: string;
  readonly zone: string;
  readonly kind: ControlRecord['data']['type'];
  readonly label: string;
  readonly response: readonly string[];
  readonly lamp: readonly string[];
}

interface Sources {
  readonly documentOf: (device: string) => DriverDocument | undefined;
  readonly tagOf: (device: string) => string | undefined;
  /** The label as it is shown now; it falls back on how it was typed. */
  readonly labelOf?: (control: ControlRecord) => string;
}

/** Every control of a page written out, as they lie on it. */
export function sheetOf(page: PageRecord, controls: readonly ControlRecord[], sources: Sources): SheetRow[] {
  const rows = inOrder(controls.map((control) => ({ ...control.data, control })));
  return rows.map(({ control }): SheetRow => {
    const { data } = control;
    return {
      id: control.id,
      place: `${columnName(data.col)}${data.row + 1}`,
      zone: zoneOf(page.data.zones, data)?.title ?? '',
      kind: data.type,
      label: sources.labelOf?.(control) || formatLabel(data.label, sources.tagOf),
      response: responseText(data, sources),
      lamp: data.lamps.map((rule) => ruleText(rule, data.values, sources)),
    };
  });
}

/** Columns are named by letters, as on a map: A to Z, then AA. */
export const columnName = (col: number): string =>
  col < 26 ? String.fromCharCode(65 + col) : `${columnName(Math.floor(col / 26) - 1)}${columnName(col % 26)}`;

function responseText(data: ControlRecord['data'], sources: Sources): string[] {
  const { range, drive, list } = data;
  const send = (each: SendSpec, free?: string) => sendText(each, data, sources, free);
  if (range) return [`sets ${send(range.send, range.param)} from ${range.min} to ${range.max}`];
  if (drive) {
    const title = sources.documentOf(drive.device)?.drives[drive.drive]?.title ?? drive.drive;
    return [`steers ${sources.tagOf(drive.device) ?? '?'}: ${title}`];
  }
  if (list) {
    const definition = sources.documentOf(list.device)?.lists[list.list];
    const acts = definition?.acts.map(({ title }) => title).join(', ') ?? '';
    return [`lists ${sources.tagOf(list.device) ?? '?'}: ${definition?.title ?? list.list}${acts && ` (${acts})`}`];
  }
  const sends = sendsOfControl(data);
  if (sends.length === 0) return [];
  return sends.map((each, n) => {
    const wait = each.waitMs ? `after ${each.waitMs} ms ` : '';
    return `${n === 0 && isHeld(data) ? 'while held ' : ''}${wait}${send(each)}`;
  });
}

function sendText(
  { device, command, params }: SendSpec,
  data: ControlRecord['data'],
  { documentOf, tagOf }: Sources,
  free?: string,
): string {
  const definition = documentOf(device)?.commands[command];
  const given = Object.entries(params)
    .filter(([name]) => name !== free)
    .map(([name, argument]) => {
      const param = definition?.params[name];
      if (isLive(argument)) return `${param?.title.toLowerCase() ?? name} ${liveText(argument, tagOf)}`;
      const value = resolveArgument(argument, data.values);
      return value === undefined ? '' : `${param?.title.toLowerCase() ?? name} ${valueText(param?.value, value)}`;
    })
    .filter(Boolean);
  return `${tagOf(device) ?? '?'} ${definition?.title ?? command}${given.length > 0 ? ` (${given.join(', ')})` : ''}`;
}
