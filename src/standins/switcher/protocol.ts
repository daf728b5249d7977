import { inputCount, macros, pictures, type Refusal, type SwitcherCommand, type SwitcherState } from './model';

/** The line protocol of the vision switcher, as its manual in docs/protocols/vision-switcher.md has it. */

export const hail = (kind: string): string => `HAIL ${kind} 1 ${inputCount}`;

type Request = SwitcherCommand | { readonly verb: 'ask' } | { readonly verb: 'alive' };

const syntax = (text: string): Refusal => ({ code: 12, text });

/** Words that take a run of whole numbers, and what they make of them. */
const numeric: Readonly<Record<string, readonly [count: number, make: (n: readonly number[]) => SwitcherCommand]>> = {
  TAKE: [1, ([input = 0]) => ({ verb: 'take', input })],
  READY: [1, ([input = 0]) => ({ verb: 'ready', input })],
  RATE: [1, ([frames = 0]) => ({ verb: 'rate', frames })],
  KEYSRC: [2, ([key = 0, input = 0]) => ({ verb: 'keysource', key, input })],
  AUX: [2, ([aux = 0, input = 0]) => ({ verb: 'aux', aux, input })],
  STILL: [2, ([store = 0, picture = 0]) => ({ verb: 'still', store, picture })],
  MACRO: [1, ([macro = 0]) => ({ verb: 'macro', macro })],
  BOXSRC: [2, ([box = 0, input = 0]) => ({ verb: 'boxsource', box, input })],
  BOXAT: [3, ([box = 0, x = 0, y = 0]) => ({ verb: 'boxat', box, x, y })],
  BOXSIZE: [2, ([box = 0, size = 0]) => ({ verb: 'boxsize', box, size })],
  BOXCROP: [5, ([box = 0, l = 0, t = 0, r = 0, b = 0]) => ({ verb: 'boxcrop', box, edges: [l, t, r, b] })],
};

/** Reads one line. A refusal has the code that the manual gives. */
export function parseRequest(line: string): Request | Refusal {
  const [word = '', ...rest] = line.split(' ');
  const rule = numeric[word];
  if (rule) {
    const [count, make] = rule;
    const numbers = rest.map(wholeNumber);
    if (numbers.length !== count || numbers.includes(undefined)) {
      return syntax(`${word} needs ${count === 1 ? 'one number' : `${count} numbers`}`);
    }
    return make(numbers as number[]);
  }
  switch (word) {
    case 'NAME': {
      const input = wholeNumber(rest[0]);
      const text = rest.slice(1).join(' ').trim();
      return input === undefined || text === ''
        ? syntax('NAME needs a number and a text')
        : { verb: 'name', input, text };
    }
    case 'KEY':
    case 'BOX': {
      const n = wholeNumber(rest[0]);
      const on = onOff(rest[1]);
      if (n === undefined || on === undefined || rest.length !== 2)
        return syntax(`${word} needs a number and on or off`);
      return word === 'KEY' ? { verb: 'key', key: n, on } : { verb: 'box', box: n, on };
    }
    case 'BLACK': {
      const on = onOff(rest[0]);
      return on === undefined || rest.length !== 1 ? syntax('BLACK needs on or off') : { verb: 'black', on };
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

const wholeNumber = (word: string | undefined): number | undefined =>
  word !== undefined && /^\d{1,6}$/.test(word) ? Number(word) : undefined;

const onOff = (word: string | undefined): boolean | undefined =>
  word === 'on' ? true : word === 'off' ? false : undefined;

const blackWord = ({ black, rate, blackWanted }: SwitcherState): string =>
  black === 0 && !blackWanted ? 'off' : black >= rate && blackWanted ? 'on' : 'fading';

const word = (on: boolean): string => (on ? 'on' : 'off');

/** Everything that the switcher reports, line by line. What stays the same from frame to frame has the same line. */
export function reportsOf(state: SwitcherState): string[] {
  const lines = [
    ...state.names.map((name, n) => `NOW name ${n + 1} ${name}`),
    `NOW rate ${state.rate}`,
    `NOW black ${blackWord(state)}`,
    `NOW macro ${state.macro ? state.macro.running : 'none'}`,
    ...state.aux.map((input, n) => `NOW aux ${n + 1} ${input}`),
    ...state.stills.map((picture, n) => {
      const { name, alpha } = pictures[picture - 1] ?? { name: '', alpha: false };
      return `NOW still ${n + 1} ${picture} ${alpha ? 'alpha' : 'plain'} ${name}`;
    }),
  ];
  state.keys.forEach(({ on, source }, n) => {
    lines.push(`NOW key ${n + 1} ${word(on)}`, `NOW keysource ${n + 1} ${source}`);
  });
  state.boxes.forEach(({ on, source, x, y, size, crop }, n) => {
    lines.push(
      `NOW box ${n + 1} ${word(on)}`,
      `NOW boxsource ${n + 1} ${source}`,
      `NOW boxat ${n + 1} ${x} ${y}`,
      `NOW boxsize ${n + 1} ${size}`,
      `NOW boxcrop ${n + 1} ${crop.join(' ')}`,
    );
  });
  lines.push(`NOW preview ${state.preview}`, `NOW program ${state.program}`, mixLine(state));
  return lines;
}

/** While a mix runs its position changes at each frame; controllers are told of its start and its end only. */
export const mixLine = ({ mixed, rate }: SwitcherState): string =>
  mixed === null ? 'NOW mix idle' : `NOW mix running ${rate - mixed}`;

/** What never changes: the firmware, the pictures on the card and the names of the macros. */
export const fixedReports = (firmware: string): string[] => [
  `NOW firmware ${firmware}`,
  ...pictures.map(({ name, alpha }, n) => `NOW picture ${n + 1} ${alpha ? 'alpha' : 'plain'} ${name}`),
  ...macros.map(({ name }, n) => `NOW macroname ${n + 1} ${name}`),
];
