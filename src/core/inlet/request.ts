import { fail, ok, type Result, type Scalar } from '../result';
import type { OscArgument } from '../wire/osc';

/** What somebody asks for over an inlet. */
export type InletRequest =
  | { readonly do: 'press'; readonly control: string }
  | { readonly do: 'run'; readonly macro: string }
  | { readonly do: 'call'; readonly snapshot: number }
  | { readonly do: 'set'; readonly variable: string; readonly value: string }
  | { readonly do: 'step'; readonly variable: string; readonly by: number }
  | { readonly do: 'fire'; readonly watch: number }
  | { readonly do: 'read'; readonly tag: string; readonly key: string };

export type InletErrorCode =
  'unknown-request' | 'incomplete' | 'too-long' | 'not-found' | 'not-allowed' | 'refused' | 'too-many';

export interface InletError {
  readonly code: InletErrorCode;
  readonly message: string;
}

/** Each request with what follows it, for people and for the documents. */
export const inletWords: Readonly<Record<InletRequest['do'], { readonly takes: string; readonly does: string }>> = {
  press: { takes: '<control>', does: 'presses a control: its id, or its page and label, such as Race/Cut' },
  run: { takes: '<macro>', does: 'starts a macro: its name or id' },
  call: { takes: '<number>', does: 'calls up a snapshot' },
  set: { takes: '<variable> <value>', does: 'sets a variable' },
  step: { takes: '<variable> [<steps>]', does: 'counts a variable up, or down with a negative number' },
  fire: { takes: '<number>', does: 'fires a watch' },
  read: { takes: '<tag> <reading>', does: 'answers with the value of a reading, such as SW1 program' },
};

const incomplete = (word: InletRequest['do']) =>
  fail<InletError>({ code: 'incomplete', message: `${word} takes ${inletWords[word].takes}.` });

/** Reads a line of text: a word, and what follows it. */
export function requestOfLine(line: string): Result<InletRequest, InletError> {
  const text = line.trim();
  const [first = '', ...rest] = text.split(/\s+/);
  return requestOf(first.toLowerCase(), rest);
}

/** Reads a message of Open Sound Control: `/press ,s Race/Cut`, or what follows as parts of the address, `/call/3`. */
export function requestOfOsc(address: string, args: readonly OscArgument[]): Result<InletRequest, InletError> {
  const [first = '', ...parts] = address.split('/').slice(1);
  return requestOf(first.toLowerCase(), [...parts.map(decoded), ...args.map(textOfArgument)]);
}

function requestOf(word: string, rest: readonly string[]): Result<InletRequest, InletError> {
  const all = rest.join(' ');
  const [first = '', ...others] = rest;
  switch (word) {
    case 'press':
      return all === '' ? incomplete('press') : ok({ do: 'press', control: all });
    case 'run':
      return all === '' ? incomplete('run') : ok({ do: 'run', macro: all });
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
    case 'read':
      return others.length === 0 ? incomplete('read') : ok({ do: 'read', tag: first, key: others.join(' ') });
    default:
      return fail({
        code: 'unknown-request',
        message: `“${word.slice(0, 40)}” is not a request (${Object.keys(inletWords).join(', ')}), and no watch waits for it.`,
      });
  }
}

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
