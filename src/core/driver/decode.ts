import type { RE2JS } from 're2js';
import type { Scalar } from '../result';
import { atPointer, jsonText, parseJson, type Json, type Said } from '../wire';
import type { CompiledDriver } from './compile';
import type { CompiledReply } from './compile-reply';
import { memberNamed } from './members';
import { memberKey, splitKey } from './reading-key';
import { fillTemplate } from './template-fill';
import { fromWire } from './values';
import { readText, type TextWriting } from './written-text';

export interface ReadingChange {
  readonly key: string;
  readonly value: Scalar;
}

/** A request of a device in the words of an inlet, with the commands that answer it. */
export interface DeviceRequest {
  readonly line: string;
  readonly groups: Groups;
  readonly done: string | undefined;
  readonly refused: string | undefined;
}

/** What one frame from a device says. */
export interface DecodedReply {
  readonly readings: readonly ReadingChange[];
  /** Families whose members are forgotten before the readings are entered. */
  readonly clears: readonly string[];
  /** Questions to ask because of this reply, with the member as the device writes it. */
  readonly asks: readonly { readonly question: string; readonly member: string | undefined }[];
  /** What the device asks for itself. */
  readonly requests: readonly DeviceRequest[];
  readonly accepts: boolean;
  /** It comes by itself all the time. */
  readonly quiet: boolean;
  readonly refuses: { readonly code: string; readonly reason: string } | undefined;
  /** The number of the request that it names, where the device does so. */
  readonly ref: number | undefined;
  /** Sentences about parts that matched a pattern but could not be read: value out of range, unknown index. */
  readonly faults: readonly string[];
}

type Groups = Readonly<Record<string, string | undefined>>;

/**
 * Reads what a frame says by the first reply of the document that fits and by all that a show adds, JSON by all that fit; `undefined` when none
 * does. Never throws.
 *
 * @param to the question or command that it answers, where that is known
 * @param member of a question that is asked for each member of a family: which one it was asked for
 */
export function decodeSaid(
  driver: CompiledDriver,
  said: Said,
  to: string | undefined,
  member?: string,
): DecodedReply | undefined {
  const asked: Record<string, string> = member === undefined ? {} : { member };
  if (said.kind === 'json') return decodeJson(driver, said.value, to, asked);
  if (said.kind === 'header') return decodeHeader(driver, said, to, asked);
  const { text } = said;
  if (said.kind === 'text' && said.topic !== undefined) return decodePublished(driver, text, said.topic);
  const added: { reply: CompiledReply; groups: Groups }[] = [];
  for (const reply of driver.replies) {
    if (!reply.pattern || reply.header !== undefined || !text.startsWith(reply.prefix)) continue;
    if (reply.to && (to === undefined || !reply.to.includes(to))) continue;
    const found = groupsOf(reply, reply.pattern, text);
    if (!found) continue;
    const groups = { ...asked, ...found };
    if (said.kind === 'osc') said.args.forEach((arg, n) => (groups[`arg${n + 1}`] = arg));
    if (!reply.isAdded) return gather(driver, added.length === 0 ? [{ reply, groups }] : [...added, { reply, groups }]);
    added.push({ reply, groups });
  }
  return added.length === 0 ? undefined : gather(driver, added);
}

/** The groups of a reply in a text; `undefined` when it does not fit. */
function groupsOf(reply: CompiledReply, pattern: RE2JS, text: string): Record<string, string> | undefined {
  const groups: Record<string, string> = {};
  // Outside the basic plane a character is two units, and the two ways would count differently.
  if (reply.plain && !surrogate.test(text)) {
    const found = reply.plain.match(text);
    if (!found) return undefined;
    reply.plain.groups.forEach((name, n) => (groups[name] = found[n] ?? ''));
    return groups;
  }
  const matcher = pattern.matcher(text);
  if (!matcher.find()) return undefined;
  for (const name of reply.groups) groups[name] = matcher.group(name) ?? '';
  return groups;
}

const surrogate = /[\ud800-\udfff]/;

type Found = { readonly reply: CompiledReply; readonly groups: Groups };

function decodeJson(
  driver: CompiledDriver,
  value: Json,
  to: string | undefined,
  asked: Record<string, string>,
): DecodedReply | undefined {
  const found: Found[] = [];
  for (const reply of driver.replies) {
    if (reply.pattern) continue;
    if (reply.to && (to === undefined || !reply.to.includes(to))) continue;
    found.push(...foundInJson(reply, value, asked));
  }
  return found.length > 0 ? gather(driver, found) : undefined;
}

function decodeHeader(
  driver: CompiledDriver,
  { name, text }: Extract<Said, { kind: 'header' }>,
  to: string | undefined,
  asked: Record<string, string>,
): DecodedReply | undefined {
  const found: Found[] = [];
  for (const reply of driver.replies) {
    if (reply.header !== name || !reply.pattern) continue;
    if (reply.to && (to === undefined || !reply.to.includes(to))) continue;
    const groups = groupsOf(reply, reply.pattern, text);
    if (groups) found.push({ reply, groups: { ...asked, ...groups } });
  }
  return found.length > 0 ? gather(driver, found) : undefined;
}

/** What was published over MQTT, by all replies that fit its topic and its text; JSON is read only where a reply asks for it. */
function decodePublished(driver: CompiledDriver, text: string, topic: string): DecodedReply | undefined {
  const found: Found[] = [];
  let json: ReturnType<typeof parseJson> | undefined;
  for (const reply of driver.replies) {
    const named: Record<string, string> = {};
    if (reply.topic) {
      const matcher = reply.topic.matcher(topic);
      if (!matcher.find()) continue;
      for (const name of Object.keys(reply.topic.namedGroups())) named[name] = matcher.group(name) ?? '';
    }
    if (reply.pattern) {
      const groups = text.startsWith(reply.prefix) ? groupsOf(reply, reply.pattern, text) : undefined;
      if (groups) found.push({ reply, groups: { ...named, ...groups } });
      continue;
    }
    json ??= parseJson(text);
    if (json.ok) found.push(...foundInJson(reply, json.value, named));
  }
  return found.length > 0 ? gather(driver, found) : undefined;
}

/** @param named groups that are known besides those in the JSON */
function foundInJson(reply: CompiledReply, value: Json, named: Record<string, string>): Found[] {
  const fit = fitting(reply.when, value);
  if (!fit) return [];
  const known = { ...named, ...fit };
  if (reply.each === undefined) return [{ reply, groups: groupsAt(reply, value, known) }];
  const list = atPointer(value, reply.each);
  if (typeof list !== 'object' || list === null) return [];
  // The list is there, if perhaps empty: what was known of it is forgotten once.
  const cleared = reply.clears.length > 0 ? [{ reply: { ...reply, set: [] }, groups: {} }] : [];
  const plain = { ...reply, clears: [] };
  const found = Object.entries(list)
    .slice(0, maxElements)
    .flatMap(([key, element], index): Found[] => {
      const inside = fitting(reply.where, element as Json);
      if (!inside) return [];
      const at = { key, index: String(index), number: String(index + 1) };
      return [{ reply: plain, groups: groupsAt(reply, element as Json, { ...known, ...at, ...inside }) }];
    });
  return [...cleared, ...(reply.nth === undefined ? found : found.slice(reply.nth - 1, reply.nth))];
}

/** The groups of all patterns; `undefined` when one does not fit. */
function fitting(tests: CompiledReply['when'], value: Json): Record<string, string> | undefined {
  const groups: Record<string, string> = {};
  for (const { pointer, pattern } of tests) {
    const text = jsonText(atPointer(value, pointer));
    const matcher = text === undefined ? undefined : pattern.matcher(text);
    if (!matcher?.find()) return undefined;
    for (const name of Object.keys(pattern.namedGroups())) groups[name] = matcher.group(name) ?? '';
  }
  return groups;
}

/** The most elements of a list that are read; a device that sends more is misbehaving. */
const maxElements = 5000;

function groupsAt(reply: CompiledReply, value: Json, more: Record<string, string>): Groups {
  const groups: Record<string, string | undefined> = { ...more };
  for (const { name, pointer } of reply.take) groups[name] = jsonText(atPointer(value, pointer));
  return groups;
}

function gather(driver: CompiledDriver, found: readonly Found[]): DecodedReply {
  const readings: ReadingChange[] = [];
  const faults: string[] = [];
  const clears: string[] = [];
  const asks: DecodedReply['asks'][number][] = [];
  const requests: DeviceRequest[] = [];
  let accepts = false;
  let quiet = found.length > 0;
  let refuses: DecodedReply['refuses'];
  let ref: number | undefined;
  for (const { reply, groups } of found) {
    readReadings(driver, reply, groups, readings, faults);
    clears.push(...reply.clears);
    for (const question of reply.asks) asks.push({ question, member: groups.member });
    if (reply.requests) {
      const { line, done, refused } = reply.requests;
      requests.push({ line: fillTemplate(line, groups), groups, done, refused });
    }
    accepts ||= reply.accepts;
    quiet &&= reply.quiet;
    refuses ??= refusal(driver, reply, groups);
    const named = reply.ref ? fillTemplate(reply.ref, groups) : groups.ref;
    if (named !== undefined && /^\d{1,15}$/.test(named)) ref = Number(named);
  }
  return { readings, clears, asks, requests, accepts, quiet, refuses, ref, faults };
}

function readReadings(
  driver: CompiledDriver,
  reply: CompiledReply,
  groups: Groups,
  readings: ReadingChange[],
  faults: string[],
): void {
  for (const { key: keyTemplate, value: valueTemplate, needs, reading, only } of reply.set) {
    // JSON leaves out what has not changed.
    if (needs.length > 0 && needs.some((name) => groups[name] === undefined)) continue;
    const said = only === undefined ? fillTemplate(valueTemplate, groups) : (groups[only] ?? '');
    if (reading) {
      const value = fromWire(reading.definition.value, said);
      if (value.ok) readings.push({ key: reading.key, value: value.value });
      else faults.push(`${reading.definition.title}: ${value.error}`);
      continue;
    }
    const filled = withNumber(driver, fillTemplate(keyTemplate, groups));
    const { family, index } = splitKey(filled);
    const definition = driver.document.readings[family];
    if (!definition) {
      faults.push(`“${filled}” is not a reading of this device`);
      continue;
    }
    const last = Number(definition.index?.to);
    if (definition.index && (index === undefined || index < definition.index.from || index > last)) {
      faults.push(`“${filled}”: there is no such ${definition.index.title.toLowerCase()}`);
      continue;
    }
    // Leading zeros are the device's way of writing; the member is the same.
    const key = index === undefined ? filled : memberKey(family, index);
    const value = fromWire(definition.value, said);
    if (value.ok) readings.push({ key, value: value.value });
    else faults.push(`${definition.title}: ${value.error}`);
  }
}

/** Replaces a member's name in a key by its number. */
function withNumber({ document }: CompiledDriver, key: string): string {
  const named = /\[([^\]]*)\]/.exec(key);
  if (!named) return key;
  const index = document.readings[key.replace(named[0], '[]')]?.index;
  const number = index && memberNamed(index, named[1] ?? '');
  return number === undefined ? key : key.replace(named[0], `[${number}]`);
}

function refusal(driver: CompiledDriver, reply: CompiledReply, groups: Groups): DecodedReply['refuses'] {
  if (!reply.refuses) return undefined;
  const code = fillTemplate(reply.refuses.code, groups);
  const reason = plainReason(fillTemplate(reply.refuses.reason, groups), reply.refuses.reads);
  return { code, reason: driver.document.errors[code] ?? (reason || `It refused with ${code || 'no reason'}.`) };
}

/** A reason as text. One that is not written as the document says is shown as it came. */
function plainReason(written: string, reads: TextWriting | undefined): string {
  const read = reads && readText(reads, written);
  return read?.ok ? read.value : written;
}
