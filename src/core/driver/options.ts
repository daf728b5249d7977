import type { Scalar } from '../result';
import type { DriverAdditions, DriverCommand, DriverContract, DriverDocument, DriverReply } from './schema';
import { toWire } from './values';

/** What a device has set of its driver's options; what is not set is the default. */
export type OptionValues = Readonly<Record<string, Scalar>>;

/** What a device adds to or chooses of its driver. */
export interface DocumentUse {
  readonly options?: OptionValues;
  readonly additions?: DriverAdditions;
}

type Only = Readonly<Record<string, readonly Scalar[]>>;

/** True where each option named has one of the values. */
export const fitsOptions = (only: Only | undefined, options: OptionValues): boolean =>
  Object.entries(only ?? {}).every(([name, values]) => values.includes(options[name] ?? ''));

/** The values of all options of a document: what a device has set, else the defaults. */
export const optionsOf = (document: DriverDocument, given: OptionValues = {}): OptionValues =>
  Object.fromEntries(Object.entries(document.options).map(([name, option]) => [name, given[name] ?? option.default]));

/**
 * The document as it is for a device: its variants are applied, values that are options are in their places, what the options rule out is
 * gone, and the show's own commands and readings are in it. Its options have what the device has set as their defaults, so that it stands
 * for the device by itself.
 */
export function documentFor(whole: DriverDocument, { options: given, additions }: DocumentUse): DriverDocument {
  const options = optionsOf(whole, given);
  const set = Object.fromEntries(
    Object.entries(whole.options).map(([name, option]) => [
      name,
      { ...option, default: options[name] ?? option.default },
    ]),
  );
  const document = withOptions({ ...withVariants(whole, options), options: set }, options);
  const keep = <T extends { only?: Only }>(record: Readonly<Record<string, T>>) =>
    Object.fromEntries(Object.entries(record).filter(([, each]) => fitsOptions(each.only, options)));
  const commands = Object.fromEntries(
    Object.entries(keep(document.commands)).map(([id, command]) => [
      id,
      { ...command, params: resolveBounds(command.params, options) as DriverCommand['params'] },
    ]),
  );
  const readings = resolveBounds(keep(document.readings), options) as DriverDocument['readings'];
  if (!additions) return withSending({ ...document, commands, readings }, options);
  const confirm = whole.variants.findLast(
    (each) => each.confirmsAdded && fitsOptions(each.when, options),
  )?.confirmsAdded;
  const added = Object.entries(additions.commands).map(([id, command]) => [
    id,
    { ...command, confirm: resolved(command.confirm ?? confirm, options) },
  ]);
  return withSending(
    {
      ...document,
      // Where something is asked something can come back.
      link: additions.polls?.length ? { ...document.link, direction: 'both' } : document.link,
      commands: { ...commands, ...(Object.fromEntries(added) as DriverDocument['commands']) },
      readings: { ...readings, ...additions.readings },
      replies: [...additions.replies, ...document.replies],
      questions: { ...document.questions, ...additions.questions },
      polls: [...document.polls, ...(additions.polls ?? [])],
      contract: additions.contract ? mergedContract(document.contract, additions.contract) : document.contract,
    },
    options,
  );
}

function mergedContract(own: DriverContract | undefined, added: DriverContract): DriverContract {
  if (!own) return added;
  return {
    commands: { ...own.commands, ...added.commands },
    readings: { ...own.readings, ...added.readings },
    drives: { ...own.drives, ...added.drives },
    stills: { ...own.stills, ...added.stills },
  };
}

/** Puts in how messages go where that is an option: to which unit of Modbus, how over MQTT. What else is in one is the device's own. */
function withSending(document: DriverDocument, options: OptionValues): DriverDocument {
  if (document.framing.kind !== 'modbus' && document.framing.kind !== 'mqtt') return document;
  const put = <Part extends { readonly send: DriverCommand['send'] }>(part: Part): Part => {
    const { send } = part;
    if (typeof send === 'string') return part;
    if ('modbus' in send)
      return { ...part, send: { modbus: { ...send.modbus, unit: resolved(send.modbus.unit, options) } } };
    if (!('mqtt' in send)) return part;
    const { mqtt } = send;
    const how = { retain: resolved(mqtt.retain, options), qos: resolved(mqtt.qos, options) };
    return { ...part, send: { mqtt: { ...mqtt, ...how } } };
  };
  const each = <Part extends { readonly send: DriverCommand['send'] }>(parts: Readonly<Record<string, Part>>) =>
    Object.fromEntries(Object.entries(parts).map(([id, part]) => [id, put(part)]));
  const { commands, questions, polls } = document;
  return { ...document, commands: each(commands), questions: each(questions), polls: polls.map(put) };
}

function withVariants(document: DriverDocument, options: OptionValues): DriverDocument {
  let now: DriverDocument = { ...document, variants: [] };
  for (const { when, link, framing, greeting, answers, replies, polls, confirms } of document.variants) {
    if (!fitsOptions(when, options)) continue;
    const commands = { ...now.commands };
    for (const [id, confirm] of Object.entries(confirms ?? {})) {
      const command = commands[id];
      if (command) commands[id] = { ...command, confirm };
    }
    now = {
      ...now,
      commands,
      link: { ...now.link, ...(link as Partial<DriverDocument['link']> | undefined) },
      framing: framing ?? now.framing,
      greeting: [...now.greeting, ...(greeting ?? [])],
      answers: answers ?? now.answers,
      replies: [...(replies ?? []), ...now.replies],
      polls: [...now.polls, ...(polls ?? [])],
    };
  }
  return now;
}

/** Puts the values of options into their places outside parameters and readings. */
function withOptions(document: DriverDocument, options: OptionValues): DriverDocument {
  if (Object.keys(options).length === 0) return document;
  const put = <Part>(part: Part): Part => resolved(part, options) as Part;
  const commands = Object.entries(document.commands).map(([id, command]) => [
    id,
    { ...command, confirm: put(command.confirm) },
  ]);
  return {
    ...document,
    link: put(document.link),
    framing: put(document.framing),
    polls: put(document.polls),
    replies: document.replies.flatMap((reply) => withMatch(reply, options) ?? []),
    commands: Object.fromEntries(commands) as DriverDocument['commands'],
  };
}

/** A reply with the values of options in it; `undefined` where its pattern is an empty text. */
function withMatch(given: DriverReply, options: OptionValues): DriverReply | undefined {
  const reply = withSet(
    given.nth === undefined ? given : { ...given, nth: Number(resolved(given.nth, options)) },
    options,
  );
  const contains = (reply.match as unknown as { contains?: { option: string } } | undefined)?.contains;
  if (!contains) return reply;
  const texts = String(options[contains.option] ?? '')
    .split('|')
    .map((text) => text.trim())
    .filter(Boolean);
  if (texts.length === 0) return undefined;
  const escaped = texts.map((text) => text.replace(/[\\^$.*+?()[\]{}]/g, '\\$&'));
  return { ...reply, match: `^(?P<all>(?s:.*(?:${escaped.join('|')}).*))$` };
}

/** Options in what it sets become texts as they are. */
function withSet(reply: DriverReply, options: OptionValues): DriverReply {
  if (!reply.set || !Object.values(reply.set).some((value) => value.includes('{option.'))) return reply;
  const literal = (hole: string, name: string) =>
    name in options ? String(options[name]).replace(/[\\{}]/g, '\\$&') : hole;
  const set = Object.entries(reply.set).map(([key, value]) => [
    key,
    value.replace(/\{option\.([A-Za-z][A-Za-z0-9]*)\}/g, literal),
  ]);
  return { ...reply, set: Object.fromEntries(set) as Record<string, string> };
}

/** Every `{"option": name}` replaced by the option's value. */
function resolved(value: unknown, options: OptionValues): unknown {
  if (Array.isArray(value)) return value.map((each) => resolved(each, options));
  if (typeof value !== 'object' || value === null) return value;
  const named = optionNamed(value);
  if (named !== undefined) return options[named];
  return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, resolved(each, options)]));
}

/** Every `{"option": name}` replaced by the number that the option's value is; under `names`, by the texts that it lists. */
function resolveBounds(value: unknown, options: OptionValues, key?: string): unknown {
  if (Array.isArray(value)) return value.map((each) => resolveBounds(each, options));
  if (typeof value !== 'object' || value === null) return value;
  const named = optionNamed(value);
  if (named !== undefined) return key === 'names' ? listed(String(options[named] ?? '')) : Number(options[named] ?? 0);
  return Object.fromEntries(Object.entries(value).map(([name, each]) => [name, resolveBounds(each, options, name)]));
}

const listed = (text: string): string[] => (text.trim() === '' ? [] : text.split(',').map((each) => each.trim()));

function optionNamed(value: object): string | undefined {
  const named = (value as { option?: unknown }).option;
  return Object.keys(value).length === 1 && typeof named === 'string' ? named : undefined;
}

/** What fills the holes `{option.name}` of the templates of a device's document, by `option.name`. */
export const optionTexts = (document: DriverDocument): Readonly<Record<string, string | Uint8Array>> =>
  Object.fromEntries(
    Object.entries(optionsOf(document)).map(([name, value]) => {
      const shape = document.options[name]?.value;
      return [`option.${name}`, shape ? toWire(shape, value) : String(value)];
    }),
  );
