import { inputCount, type Refusal, type SwitcherCommand, type SwitcherField, type SwitcherState } from './model';

/** The line protocol of the vision switcher, as its manual in docs/protocols/vision-switcher.md has it. */

export const hail = `HAIL switcher 1 ${inputCount}`;

export type Request = SwitcherCommand | { readonly verb: 'ask' } | { readonly verb: 'alive' };

const syntax = (text: string): Refusal => ({ code: 12, text });

/** Reads one line. A refusal has the code that the manual gives. */
export function parseRequest(line: string): Request | Refusal {
  const [word = '', ...rest] = line.split(' ');
  switch (word) {
    case 'TAKE':
    case 'READY': {
      const input = wholeNumber(rest);
      return input === undefined
        ? syntax(`${word} needs one number`)
        : { verb: word === 'TAKE' ? 'take' : 'ready', input };
    }
    case 'RATE': {
      const frames = wholeNumber(rest);
      return frames === undefined ? syntax('RATE needs one number') : { verb: 'rate', frames };
    }
    case 'NAME': {
      const input = wholeNumber(rest.slice(0, 1));
      const text = rest.slice(1).join(' ').trim();
      return input === undefined || text === ''
        ? syntax('NAME needs a number and a text')
        : { verb: 'name', input, text };
    }
    case 'CUT':
    case 'MIX':
    case 'ALIVE':
      return rest.length > 0 ? syntax(`${word} stands alone`) : { verb: word.toLowerCase() as 'cut' | 'mix' | 'alive' };
    case 'ASK':
      return rest.join(' ') === 'all' ? { verb: 'ask' } : syntax('only “ASK all” is known');
    default:
      return { code: 11, text: 'not understood' };
  }
}

function wholeNumber(words: readonly string[]): number | undefined {
  const [word] = words;
  return words.length === 1 && word !== undefined && /^\d{1,6}$/.test(word) ? Number(word) : undefined;
}

/** The report of one field. */
export function reportOf(field: SwitcherField, state: SwitcherState): string {
  if (typeof field === 'object') return `NOW name ${field.name} ${state.names[field.name - 1]}`;
  if (field === 'mix') return state.mixed === null ? 'NOW mix idle' : `NOW mix running ${state.rate - state.mixed}`;
  return `NOW ${field} ${state[field]}`;
}

/** Every field, for “ASK all”. */
export const allFields: readonly SwitcherField[] = [
  ...Array.from({ length: inputCount }, (_, n) => ({ name: n + 1 })),
  'rate',
  'preview',
  'program',
  'mix',
];
