import { isBlank } from '../face';
import type { ControlRecord } from '../show';

type Data = ControlRecord['data'];

/** What of a control can be given to others by itself. The look is tint, icon and picture. */
export const controlParts = ['label', 'look', 'response', 'lamp'] as const;
export type ControlPart = (typeof controlParts)[number];

/**
 * A control with one part of another. The values that the part counts with (which input, which strip) stay the control's own where it has
 * them, so that of twelve buttons each goes on being about its own input; those that it lacks come along.
 *
 * @returns undefined where the control cannot have the part: only a control of the same kind has the same response
 */
export function withPartOf(data: Data, from: Data, part: ControlPart): Data | undefined {
  switch (part) {
    case 'label':
      return withValues({ ...data, label: from.label }, from, from.label);
    case 'look':
      return withLook(data, from);
    case 'lamp':
      return withValues({ ...data, lamps: from.lamps }, from, from.lamps);
    case 'response': {
      if (data.type !== from.type || data.type === 'readout') return undefined;
      const { range: _range, drive: _drive, list: _list, ...rest } = data;
      const { responses, range, drive, list } = from;
      const own = { responses, ...(range && { range }), ...(drive && { drive }), ...(list && { list }) };
      return withValues({ ...rest, ...own }, from, own);
    }
  }
}

/** Whether a control has anything of this part to give. */
export function hasPart(data: Data, part: ControlPart): boolean {
  switch (part) {
    case 'label':
      return !isBlank(data.label);
    case 'look':
      return data.tint !== undefined || data.icon !== undefined || data.picture !== undefined;
    case 'lamp':
      return data.lamps.length > 0;
    case 'response':
      return data.type !== 'readout';
  }
}

function withLook(data: Data, { tint, icon, picture }: Data): Data {
  const { tint: _tint, icon: _icon, picture: _picture, ...rest } = data;
  return { ...rest, ...(tint && { tint }), ...(icon && { icon }), ...(picture && { picture }) };
}

/** With the values that a part names and the control does not have yet. */
function withValues(data: Data, from: Data, part: unknown): Data {
  const names = valuesNamed(part).filter((name) => !(name in data.values) && name in from.values);
  if (names.length === 0) return data;
  const given = Object.fromEntries(names.map((name) => [name, from.values[name]])) as Data['values'];
  return { ...data, values: { ...given, ...data.values } };
}

/** The values that something names: as an argument, or in the key of a reading. */
function valuesNamed(part: unknown): string[] {
  if (typeof part === 'string') return [...part.matchAll(/\[\$([A-Za-z_]\w*)\]/g)].map(([, name = '']) => name);
  if (Array.isArray(part)) return part.flatMap(valuesNamed);
  if (part === null || typeof part !== 'object') return [];
  const entries = Object.entries(part);
  const argument = entries.length === 1 && entries[0]?.[0] === 'value' ? entries[0][1] : undefined;
  return typeof argument === 'string' ? [argument] : entries.flatMap(([, each]) => valuesNamed(each));
}
