import { fail, ok, type Result, type Scalar } from '../result';
import type { OscArgument } from '../wire/osc';

/** What somebody may read once, or follow: a reading of a device, or the lamp of a control. */
export type InletSubject = { readonly tag: string; readonly key: string } | { readonly control: string };

/** What can be listed; readings are those of a device, controls those of a page. */
export const listables = [
  'devices',
  'readings',
  'pages',
  'controls',
  'macros',
  'variables',
  'snapshots',
  'watches',
] as const;
export type Listable = (typeof listables)[number];

/** What somebody asks for over an inlet. */
export type InletRequest =
  | { readonly do: 'press'; readonly control: string }
  | { readonly do: 'run'; readonly macro: string; readonly params: Readonly<Record<string, string>> }
  | { readonly do: 'page'; readonly page: string }
  | { readonly do: 'call'; readonly snapshot: number }
  | { readonly do: 'set'; readonly variable: string; readonly value: string }
  | { readonly do: 'step'; readonly variable: string; readonly by: number }
  | { readonly do: 'fire'; readonly watch: number }
  | { readonly do: 'list'; readonly what: Listable; readonly of: string }
  | { readonly do: 'read' | 'follow'; readonly subject: InletSubject }
  /** Without a subject: everything. */
  | { readonly do: 'unfollow'; readonly subject?: InletSubject };

export type InletErrorCode =
  'unknown-request' | 'incomplete' | 'too-long' | 'not-found' | 'not-allowed' | 'refused' | 'too-many';

export interface InletError {
  readonly code: InletErrorCode;
  readonly message: string;
}

/** Each request with what follows it as words, and as a path of HTTP where it has one: for people and for the documents. */
export const inletWords: Readonly<
  Record<InletRequest['do'], { readonly takes: string; readonly does: string; readonly path?: string }>
> = {
  press: {
    path: '/press/<page>/<label>',
    takes: '<control>',
    does: 'presses a control: its id, or its page and label, such as Race/Cut',
  },
  run: {
    path: '/run/<macro>?<parameter>=<value>',
    takes: '<macro> [<parameter>=<value> …]',
    does: 'starts a macro: its name or id',
  },
  page: { path: '/page/<page>', takes: '<page>', does: 'opens a page on all panels that have it: its name or id' },
  call: { path: '/call/<number>', takes: '<number>', does: 'calls up a snapshot' },
  set: { path: '/set/<variable>/<value>', takes: '<variable> <value>', does: 'sets a variable' },
  step: {
    path: '/step/<variable>/<steps>',
    takes: '<variable> [<steps>]',
    does: 'counts a variable up, or down with a negative number',
  },
  fire: { path: '/fire/<number>', takes: '<number>', does: 'fires a watch' },
  read: {
    path: '/read/<tag>/<reading>, or /read/lamp/<page>/<label>',
    takes: '<tag> <reading>, or lamp <control>',
    does: 'answers with the value of a reading, such as SW1 program, or with what a lamp shows',
  },
  list: {
    path: '/list/<what>, or /list/readings/<tag>, or /list/controls/<page>',
    takes: '<what> [<tag> or <page>]',
    does: `answers with names: ${listables.join(', ')}`,
  },
  follow: {
    path: '/follow/<tag>/<reading>',
    takes: '<tag> <reading>, or lamp <control>',
    does: 'answers in the same way, and again whenever it changes',
  },
  unfollow: { takes: '[<tag> <reading>, or lamp <control>]', does: 'ends following it, or all that is followed' },
};

const incomplete = (word: InletRequest['do']) =>
  fail<InletError>({ code: 'incomplete', message: `${word} takes ${inletWords[word].takes}.` });

/** Reads a line of text: a word, and what follows it. */
export function requestOfLine(line: string): Result<InletRequest, InletError> {
  const text = line.trim();
  const [first = '', ...rest] = text.split(/\s+/);
  return requestOf(first.toLowerCase(), rest);
}

/**
 * Reads a path of HTTP: `/press/Race/Cut`, `/set/race/7`. What belongs to the path besides, such as the parameters of a macro, may be in the query;
 * the value of a variable in the body.
 */
export function requestOfPath(
  path: string,
  query: Readonly<Record<string, string>>,
  body: string,
): Result<InletRequest, InletError> {
  const [first = '', ...parts] = path.split('/').slice(1).map(decoded);
  const rest = parts.filter((part) => part !== '');
  const value = query.value ?? (body.trim() === '' ? undefined : body.trim());
  const word = first.toLowerCase();
  const request = requestOf(word, [
    ...joined(word, rest),
    ...(word === 'set' && rest.length === 1 && value !== undefined ? [value] : []),
  ]);
  if (!request.ok || request.value.do !== 'run') return request;
  const { token: _, ...params } = query;
  return ok({ ...request.value, params: { ...request.value.params, ...params } });
}

/** The path as one text, which watches wait for: `/cue/12/go` is `cue 12 go`. */
export const pathText = (path: string): string =>
  path
    .split('/')
    .map(decoded)
    .filter((part) => part !== '')
    .join(' ');

/** Names are written with slashes, also where each of their parts came by itself. */
function joined(word: string, parts: readonly string[]): readonly string[] {
  if (word === 'press' || word === 'run' || word === 'page') return [parts.join('/')];
  const isLamp = parts[0]?.toLowerCase() === 'lamp';
  return isLamp && ['read', 'follow', 'unfollow'].includes(word) ? ['lamp', parts.slice(1).join('/')] : parts;
}

/** Reads a message of Open Sound Control: `/press ,s Race/Cut`, or what follows as parts of the address, `/call/3`. */
export function requestOfOsc(address: string, args: readonly OscArgument[]): Result<InletRequest, InletError> {
  const [first = '', ...parts] = address.split('/').slice(1);
  const word = first.toLowerCase();
  return requestOf(
    word,
    [...joined(word, parts.map(decoded)), ...args.map(textOfArgument)].filter((part) => part !== ''),
  );
}

/**
 * Reads a topic of MQTT below that of the requests, with its payload: `press/Race/Cut`, `set/race` with `7`. What the topic leaves out may be in
 * the payload; without any level, the payload is a line of text.
 */
export function requestOfTopicParts(parts: readonly string[], payload: string): Result<InletRequest, InletError> {
  const [first, ...rest] = parts;
  const text = payload.trim();
  if (first === undefined) return requestOfLine(text);
  const word = first.toLowerCase();
  // Simple senders publish `1` or `ON` whatever the topic means: beside a whole topic, that says nothing.
  const isWhole = word === 'run' ? rest.length > 0 && !text.includes('=') : rest.length > (isOfVariable(word) ? 1 : 0);
  const more = isWhole || text === '' ? [] : text.split(/\s+/);
  return requestOf(word, [...(rest.length > 0 ? joined(word, rest) : []), ...more]);
}

const isOfVariable = (word: string): boolean => word === 'set' || word === 'step';

function requestOf(word: string, rest: readonly string[]): Result<InletRequest, InletError> {
  const all = rest.join(' ');
  const [first = '', ...others] = rest;
  switch (word) {
    case 'press':
      return all === '' ? incomplete('press') : ok({ do: 'press', control: all });
    case 'run':
      return requestToRun(rest);
    case 'page':
      return all === '' ? incomplete('page') : ok({ do: 'page', page: all });
    case 'call': {
      const snapshot = wholeOf(first);
      return snapshot === undefined ? incomplete('call') : ok({ do: 'call', snapshot });
    }
    case 'fire': {
      const watch = wholeOf(first);
      return watch === undefined ? incomplete('fire') : ok({ do: 'fire', watch });
    }
    case 'set':
      return others.length === 0 ? incomplete('set') : ok({ do: 'set', variable: first, value: others.join(' ') });
    case 'step': {
      const by = others.length === 0 ? 1 : wholeOf(others[0] ?? '');
      return first === '' || by === undefined ? incomplete('step') : ok({ do: 'step', variable: first, by });
    }
    case 'list': {
      const what = listables.find((each) => each === first.toLowerCase());
      const of = others.join(' ');
      if (!what || ((what === 'readings' || what === 'controls') && of === '')) return incomplete('list');
      return ok({ do: 'list', what, of });
    }
    case 'read':
    case 'follow':
      return others.length === 0 ? incomplete(word) : ok({ do: word, subject: subjectOf(first, others) });
    case 'unfollow':
      if (first === '') return ok({ do: word });
      return others.length === 0 ? incomplete(word) : ok({ do: word, subject: subjectOf(first, others) });
    default:
      return fail({
        code: 'unknown-request',
        message: `“${word.slice(0, 40)}” is not a request (${Object.keys(inletWords).join(', ')}), and no watch waits for it.`,
      });
  }
}

const subjectOf = (first: string, others: readonly string[]): InletSubject =>
  first.toLowerCase() === 'lamp' ? { control: others.join(' ') } : { tag: first, key: others.join(' ') };

/** A macro by its name, and after that its parameters: `Start of race lane=3`. */
function requestToRun(words: readonly string[]): Result<InletRequest, InletError> {
  const from = words.findIndex((word, n) => n > 0 && parameter.test(word));
  const name = (from === -1 ? words : words.slice(0, from)).join(' ');
  if (name === '') return incomplete('run');
  const params: Record<string, string> = {};
  let last = '';
  for (const word of from === -1 ? [] : words.slice(from)) {
    const [, key, value = ''] = parameter.exec(word) ?? [];
    // A value with blanks goes on until the next name.
    if (key !== undefined) params[(last = key)] = value;
    else params[last] = `${params[last] ?? ''} ${word}`.trim();
  }
  return ok({ do: 'run', macro: name, params });
}

const parameter = /^([A-Za-z]\w{0,39})=(.*)$/s;

const wholeOf = (text: string): number | undefined => (/^-?\d{1,6}$/.test(text) ? Number(text) : undefined);

function decoded(part: string): string {
  try {
    return decodeURIComponent(part);
  } catch {
    // A lone per cent sign is meant as it is.
    return part;
  }
}

/** An argument as it would be typed. */
function textOfArgument(argument: OscArgument): string {
  switch (argument.type) {
    case 'T':
      return 'on';
    case 'F':
      return 'off';
    case 'N':
    case 'I':
    case 'b':
      return '';
    default:
      return String(argument.value);
  }
}

/** What comes in as one text, which watches wait for: a line, or an address with its arguments. */
export const messageText = (address: string, args: readonly OscArgument[]): string =>
  [address, ...args.map(textOfArgument)].join(' ').trim();

/** A typed value for a variable: on and off as well as numbers, where they are meant so. */
export function valueOfText(text: string, type: 'text' | 'number' | 'onOff' | 'choice'): Scalar {
  if (type === 'number') return text.trim() === '' ? Number.NaN : Number(text);
  if (type === 'onOff') {
    const word = text.trim().toLowerCase();
    if (['on', 'true', '1', 'yes'].includes(word)) return true;
    if (['off', 'false', '0', 'no'].includes(word)) return false;
  }
  return text;
}
