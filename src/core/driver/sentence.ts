import type { Scalar } from '../result';
import { memberText } from './members';
import { memberKey, splitKey } from './reading-key';
import type { DriverCommand, DriverDocument, DriverParameter } from './schema';
import { valueWithUnit } from './values';

/** A piece of a command's sentence: words, or the value of a parameter. */
export type SentencePart =
  { readonly text: string; readonly param?: undefined } | { readonly text: string; readonly param: string };

/** The caller's own text for a parameter's value; `undefined` leaves the text to the document. */
type ShownValue = (param: string) => string | undefined;

/** Shown where a value is missing. */
const missing = '…';
const placeholder = /\{(\w+)\}/g;

/** The parameters that a sentence names. */
export const namedIn = (says: string): string[] => [...says.matchAll(placeholder)].map(([, name = '']) => name);

/**
 * A command with its values as a sentence: “Key 1 on”, “Take Finish to program”. A parameter that is picked from a list shows its
 * member's name where `readings` has one, else its number. Values that the sentence does not name are left out. An optional value that
 * is empty goes with the words before it, back to a comma: “Play, at speed {speed}” is “Play” without one. A command whose
 * document has no sentence shows its title, and its values after that.
 *
 * @param readings values of the device's readings by key, for the names of what it lists
 */
export function commandSentence(
  command: DriverCommand,
  values: Readonly<Record<string, Scalar | undefined>>,
  readings: Readonly<Record<string, { readonly value?: Scalar }>> = {},
  shown: ShownValue = () => undefined,
): SentencePart[] {
  const textOf = (name: string, param: DriverParameter): string =>
    shown(name) ?? paramText(param, values[name], readings) ?? missing;
  const { says, params } = command;
  if (says === undefined) {
    const given = Object.entries(params).filter(([name]) => shown(name) !== undefined || values[name] !== undefined);
    return [
      { text: command.title },
      ...given.flatMap(([name, param]): SentencePart[] => [{ text: ' ' }, { param: name, text: textOf(name, param) }]),
    ];
  }
  const parts: SentencePart[] = [];
  let from = 0;
  for (const { 0: whole, 1: name = '', index } of says.matchAll(placeholder)) {
    if (index > from) parts.push({ text: says.slice(from, index) });
    const param = params[name];
    const isEmpty = values[name] === undefined || values[name] === '';
    const isLeftOut = param?.optional === true && isEmpty && shown(name) === undefined;
    if (isLeftOut) dropClause(parts);
    else if (param) parts.push({ param: name, text: textOf(name, param) });
    from = index + whole.length;
  }
  if (from < says.length) parts.push({ text: says.slice(from) });
  return parts;
}

/** Takes back the words before a value that was left out, as far as the comma before them. */
function dropClause(parts: SentencePart[]): void {
  const last = parts.at(-1);
  const comma = last?.param === undefined ? (last?.text.lastIndexOf(',') ?? -1) : -1;
  if (last && comma >= 0) parts[parts.length - 1] = { text: last.text.slice(0, comma) };
}

/** A sentence as one line of text. */
export const sentenceText = (parts: readonly SentencePart[]): string => parts.map(({ text }) => text).join('');

/** The sentence of a command of a document, as text; the command's id where the document does not have it. */
export function commandText(
  document: DriverDocument | undefined,
  id: string,
  values: Readonly<Record<string, Scalar | undefined>>,
  readings?: Readonly<Record<string, { readonly value?: Scalar }>>,
  shown?: ShownValue,
): string {
  const command = document?.commands[id];
  return command ? sentenceText(commandSentence(command, values, readings, shown)) : id;
}

/** A value as people read it: the name of what is listed, the title of a choice, a number with its unit. */
export function paramText(
  param: DriverParameter,
  value: Scalar | undefined,
  readings: Readonly<Record<string, { readonly value?: Scalar }>> = {},
): string | undefined {
  if (value === undefined) return undefined;
  if (param.listFrom && param.sends === 'index' && typeof value === 'number') {
    const name = readings[memberKey(param.listFrom, value)]?.value;
    if (name !== undefined && name !== '') return String(name);
  }
  return valueWithUnit(param.value, value);
}

/** Returns a reading's title, with the member's name or number: “Gain 2”; `undefined` for an unknown key. */
export function readingTitle(document: DriverDocument | undefined, key: string): string | undefined {
  const { family, index } = splitKey(key);
  const reading = document?.readings[family];
  if (!reading) return undefined;
  return index === undefined || !reading.index ? reading.title : `${reading.title} ${memberText(reading.index, index)}`;
}

/** A reading and its value in words: “Program input” and “5”, “Key on 2” and “off”. Its key where the document does not have it. */
export function readingText(
  document: DriverDocument | undefined,
  key: string,
  value: Scalar | undefined,
): { readonly name: string; readonly shown: string } {
  const reading = document?.readings[splitKey(key).family];
  return {
    name: readingTitle(document, key) ?? key,
    shown: value === undefined ? 'unknown' : valueWithUnit(reading?.value, value),
  };
}
