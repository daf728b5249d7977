import {
  auxCount,
  boxCount,
  inputCount,
  keyCount,
  macros,
  pictures,
  stillCount,
  type Refusal,
  type SwitcherCommand,
  type SwitcherState,
} from './model';

const isOneOf = (n: number, count: number): boolean => Number.isInteger(n) && n >= 1 && n <= count;
const noSuch = (what: string, n: number): Refusal => ({ code: 21, text: `no ${what} ${n}` });
const outside = (text: string): Refusal => ({ code: 22, text });

/** Why the switcher does not take a command, or nothing when it does. */
export function checkRequest(command: SwitcherCommand, mixing: boolean, state: SwitcherState): Refusal | undefined {
  if ('input' in command && !isOneOf(command.input, inputCount)) return noSuch('input', command.input);
  if ('key' in command && !isOneOf(command.key, keyCount)) return noSuch('key', command.key);
  if ('box' in command && !isOneOf(command.box, boxCount)) return noSuch('box', command.box);
  switch (command.verb) {
    case 'rate':
      return command.frames < 1 || command.frames > 250 ? outside('rate is 1 to 250 frames') : undefined;
    case 'name':
      return [...command.text].length > 20 ? outside('a name has at most 20 characters') : undefined;
    case 'aux':
      return isOneOf(command.aux, auxCount) ? undefined : noSuch('aux', command.aux);
    case 'still':
      if (!isOneOf(command.store, stillCount)) return noSuch('store', command.store);
      return isOneOf(command.picture, pictures.length) ? undefined : noSuch('picture', command.picture);
    case 'macro':
      if (!isOneOf(command.macro, macros.length)) return noSuch('macro', command.macro);
      return state.macro ? { code: 32, text: 'macro running' } : undefined;
    case 'boxat':
      return [command.x, command.y].every((n) => n >= 0 && n <= 1000) ? undefined : outside('a place is 0 to 1000');
    case 'boxsize':
      return command.size >= 5 && command.size <= 100 ? undefined : outside('a size is 5 to 100 per cent');
    case 'boxcrop':
      return command.edges.every((n) => n >= 0 && n <= 45) ? undefined : outside('an edge is 0 to 45 per cent');
    case 'mix':
    case 'cut':
      return mixing ? { code: 31, text: 'mix running' } : undefined;
    default:
      return undefined;
  }
}
