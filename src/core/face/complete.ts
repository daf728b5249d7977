import { distance } from 'fastest-levenshtein';
import { readingTitle, splitKey, valueText, type DriverDocument } from '../driver';
import { inNumberOrder } from '../number-order';
import type { Reading } from '../reading';

import { parseLabel, type LabelError } from './label';

/** A device as far as labels are concerned. */
export interface LabelDevice {
  readonly id: string;
  readonly tag: string;
  readonly name: string;
  readonly document: DriverDocument | undefined;
  readonly readings: Readonly<Record<string, Reading>>;
}

/** One way to go on with a reference that is being typed. */
interface Completion {
  /** The whole text with this put in, and where the caret is then. */
  readonly text: string;
  readonly caret: number;
  /** What is put in: `SW1`, `program`, `input[3].name`, `$input`. */
  readonly word: string;
  readonly title: string;
  /** What it is now, as it would be shown. */
  readonly now: string;
}

const most = 60;

/**
 * How a label can go on at the caret, while a reference is open there: first the devices and the control's own values, after
 * the point the readings of the device, those that it has reported member by member, each with what it is now.
 */
export function completeLabel(
  typed: string,
  caret: number,
  devices: readonly LabelDevice[],
  values: Readonly<Record<string, unknown>>,
): Completion[] {
  const open = openReference(typed, caret);
  if (!open) return [];
  const { from, word } = open;
  const rest = typed.slice(caret);
  const put = (whole: string, closed: boolean, title: string, now: string): Completion => {
    const end = closed && !rest.startsWith('}') ? '}' : '';
    const text = `${typed.slice(0, from)}${whole}${end}${rest}`;
    const after = from + whole.length + (closed ? 1 : 0);
    return { text, caret: after, word: whole, title, now };
  };
  const point = word.indexOf('.');
  const has = (text: string, part: string) => text.toLowerCase().includes(part.toLowerCase());
  if (point === -1) {
    const own = Object.entries(values)
      .filter(([name]) => has(`$${name}`, word))
      .map(([name, value]) => put(`$${name}`, true, 'value of this control', String(value)));
    const tags = devices
      .filter(({ tag, name }) => has(`${tag} ${name}`, word))
      .map(({ tag, name }) => ({ ...put(`${tag}.`, false, name, ''), word: tag }));
    return [...own, ...tags].slice(0, most);
  }
  const device = devices.find(({ tag }) => tag.toUpperCase() === word.slice(0, point).toUpperCase());
  const part = word.slice(point + 1);
  return readingKeys(device)
    .filter(({ key, title, now }) => has(`${key} ${title} ${now}`, part))
    .sort((a, b) => rankOf(a.key, part) - rankOf(b.key, part))
    .slice(0, most)
    .map(({ key, title, now }) => ({ ...put(`${device?.tag ?? ''}.${key}`, true, title, now), word: key }));
}

const rankOf = (key: string, part: string): number => (key.toLowerCase().startsWith(part.toLowerCase()) ? 0 : 1);

/** The reference that is open at the caret: where its text begins and what is typed of it. `{{` opens none. */
function openReference(typed: string, caret: number): { readonly from: number; readonly word: string } | undefined {
  let from: number | undefined;
  for (let i = 0; i < caret; i += 1) {
    const c = typed[i];
    if (c === '{' && typed[i + 1] === '{' && from === undefined) i += 1;
    else if (c === '{') from = i + 1;
    else if (c === '}') from = undefined;
  }
  return from === undefined ? undefined : { from, word: typed.slice(from, caret) };
}

/** Every reading that a label can show of a device: single ones, and the members that it has reported. */
function readingKeys(device: LabelDevice | undefined) {
  const definitions = device?.document?.readings ?? {};
  const keys = new Set([
    ...Object.keys(definitions).filter((key) => !key.includes('[]')),
    ...Object.keys(device?.readings ?? {}),
  ]);
  return [...keys].sort(inNumberOrder).flatMap((key) => {
    const definition = definitions[splitKey(key).family];
    const value = device?.readings[key]?.value;
    if (!definition) return [];
    const title = readingTitle(device?.document, key) ?? key;
    return [{ key, title, now: value === undefined ? '' : valueText(definition.value, value) }];
  });
}

/**
 * Everything that is wrong with a typed label: what cannot be read, devices that are not in the rig and readings that they do
 * not have, each with what is near. Positions count from 0.
 */
export function checkLabel(
  typed: string,
  devices: readonly LabelDevice[],
  values: Readonly<Record<string, unknown>>,
): LabelError[] {
  const byTag = (tag: string) => devices.find((device) => device.tag === tag);
  const read = parseLabel(typed, (tag) => byTag(tag)?.id ?? (tag === 'missing' ? 'missing' : undefined));
  if (!read.ok) {
    const tag = /^\{\s*([A-Za-z][A-Za-z0-9_]*)\./.exec(typed.slice(read.error.offset))?.[1];
    const near =
      tag === undefined
        ? undefined
        : nearest(
            tag,
            devices.map((device) => device.tag),
          );
    return [{ ...read.error, message: near ? `${read.error.message} Is “${near}” meant?` : read.error.message }];
  }
  const errors: LabelError[] = [];
  const pattern = /\{\{|\}\}|\{\s*(?:\$([A-Za-z0-9]+)|([A-Za-z][A-Za-z0-9_]*)\.([^}]*?))\s*\}/g;
  for (const match of typed.matchAll(pattern)) {
    const [whole, value, tag, key = ''] = match;
    const at = { offset: match.index };
    if (whole === '{{' || whole === '}}') continue;
    if (value !== undefined) {
      if (value in values) continue;
      const near = nearest(value, Object.keys(values));
      errors.push({
        ...at,
        message: near
          ? `This control has no value “$${value}”. Is “$${near}” meant?`
          : `This control has no value “$${value}”.`,
      });
      continue;
    }
    const device = byTag(tag ?? '');
    if (!device) {
      errors.push({ ...at, message: 'The device of this reading is no longer in the rig.' });
      continue;
    }
    const { document } = device;
    const asked = key.replace(/\[\$([a-z][A-Za-z0-9]*)\]/, (bracket, name: string) => {
      const given = values[name];
      return typeof given === 'number' ? `[${given}]` : bracket;
    });
    if (!document || hasReading(document, asked)) continue;
    const known = readingKeys(device).map((reading) => reading.key);
    const near = nearest(asked, [...known, ...Object.keys(document.readings)]);
    errors.push({
      ...at,
      message: `${device.tag} has no reading “${key}”.${near ? ` Is “${near}” meant?` : ''}`,
    });
  }
  return errors;
}

/** True when a device of this kind can report the reading. */
export function hasReading(document: DriverDocument, key: string): boolean {
  const { family, index } = splitKey(key);
  const reading = document.readings[family];
  if (!reading) return false;
  if (!reading.index) return true;
  return index !== undefined && index >= reading.index.from && index <= Number(reading.index.to);
}

/** The word that was most likely meant; `undefined` when none is near. */
export function nearest(word: string, known: readonly string[]): string | undefined {
  const typed = word.toLowerCase();
  let best: { readonly word: string; readonly far: number } | undefined;
  for (const each of known) {
    const lower = each.toLowerCase();
    const far = lower.startsWith(typed) || typed.startsWith(lower) ? 1 : distance(typed, lower);
    if (far <= Math.max(1, Math.ceil(word.length / 3)) && (!best || far < best.far)) best = { word: each, far };
  }
  return best?.word;
}
