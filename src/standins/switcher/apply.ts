import { macros, type Box, type SwitcherCommand, type SwitcherState } from './model';

/** The state after a command that was accepted. */
export function applyRequest(now: SwitcherState, command: SwitcherCommand): SwitcherState {
  const box = (change: Partial<Box>) => ({
    ...now,
    boxes: changedAt(now.boxes, 'box' in command ? command.box : 0, change),
  });
  switch (command.verb) {
    case 'take':
      // Taking an input by hand ends a mix: the bus is what was asked for last.
      return { ...now, program: command.input, mixed: null };
    case 'ready':
      return { ...now, preview: command.input };
    case 'cut':
      return { ...now, program: now.preview, preview: now.program };
    case 'mix':
      return { ...now, mixed: 0 };
    case 'rate':
      // How dark the picture is stays as it is: black stays black, whatever it takes from now on.
      return { ...now, rate: command.frames, black: Math.round((now.black / now.rate) * command.frames) };
    case 'name':
      return { ...now, names: now.names.map((name, n) => (n === command.input - 1 ? command.text : name)) };
    case 'black':
      return { ...now, blackWanted: command.on };
    case 'key':
      return { ...now, keys: changedAt(now.keys, command.key, { on: command.on }) };
    case 'keysource':
      return { ...now, keys: changedAt(now.keys, command.key, { source: command.input }) };
    case 'aux':
      return { ...now, aux: now.aux.map((input, n) => (n === command.aux - 1 ? command.input : input)) };
    case 'still':
      return { ...now, stills: now.stills.map((each, n) => (n === command.store - 1 ? command.picture : each)) };
    case 'macro':
      return { ...now, macro: { running: command.macro, framesLeft: macros[command.macro - 1]?.frames ?? 1 } };
    case 'box':
      return box({ on: command.on });
    case 'boxsource':
      return box({ source: command.input });
    case 'boxat':
      return box({ x: command.x, y: command.y });
    case 'boxsize':
      return box({ size: command.size });
    case 'boxcrop':
      return box({ crop: command.edges });
  }
}

/** The list with its n-th element, counted from 1, changed. */
function changedAt<T extends object>(list: readonly T[], n: number, change: Partial<T>): T[] {
  return list.map((each, at) => (at === n - 1 ? { ...each, ...change } : each));
}
