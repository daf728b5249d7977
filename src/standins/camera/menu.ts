import type { CameraState, ExposureMode, WhiteBalance } from './model';

/**
 * The camera's own menu: a list with a cursor. Up and down move it, Enter takes a line in hand, up and down then change its value at once, Enter
 * keeps it and Back gives the one before again.
 */

export interface MenuState {
  readonly cursor: number;
  /** The value of the line in hand as it was, while one is in hand. */
  readonly before?: string | undefined;
}

export const menuAtStart: MenuState = { cursor: 0 };

type Change = Partial<Pick<CameraState, 'exposure' | 'whiteBalance' | 'backlight' | 'picture'>>;

interface Line {
  readonly title: string;
  readonly values: readonly string[];
  readonly read: (state: CameraState) => string;
  readonly write: (state: CameraState, value: string) => Change;
}

const onOff = ['off', 'on'];

const lines: readonly Line[] = [
  {
    title: 'Exposure',
    values: ['auto', 'manual', 'shutter', 'iris', 'bright'] satisfies ExposureMode[],
    read: ({ exposure }) => exposure,
    write: (_, value) => ({ exposure: value as ExposureMode }),
  },
  {
    title: 'White balance',
    values: ['auto', 'indoor', 'outdoor', 'onePush', 'tracking', 'manual'] satisfies WhiteBalance[],
    read: ({ whiteBalance }) => whiteBalance,
    write: (_, value) => ({ whiteBalance: value as WhiteBalance }),
  },
  {
    title: 'Backlight',
    values: onOff,
    read: ({ backlight }) => (backlight ? 'on' : 'off'),
    write: (_, value) => ({ backlight: value === 'on' }),
  },
  {
    title: 'Mirror',
    values: onOff,
    read: ({ picture }) => (picture.mirror === 1 ? 'on' : 'off'),
    write: ({ picture }, value) => ({ picture: { ...picture, mirror: value === 'on' ? 1 : 0 } }),
  },
];

/** What is seen of the menu: each line with its value, the one at the cursor and the one in hand marked. */
export const menuLines = (
  state: CameraState,
): readonly { readonly text: string; readonly at: '' | 'here' | 'hand' }[] =>
  lines.map(({ title, read }, n) => ({
    text: `${title}: ${read(state)}`,
    at: n !== state.menuState.cursor ? '' : state.menuState.before === undefined ? 'here' : 'hand',
  }));

interface Step {
  readonly menuState: MenuState;
  readonly change: Change;
}

/** The cursor, or the value in hand, one step up or down. */
export function menuStep(state: CameraState, by: 1 | -1): Step {
  const { cursor, before } = state.menuState;
  const line = lines[cursor];
  if (before === undefined || !line)
    return { menuState: { cursor: (cursor + by + lines.length) % lines.length }, change: {} };
  const at = line.values.indexOf(line.read(state));
  const value = line.values[(at + by + line.values.length) % line.values.length] ?? '';
  return { menuState: state.menuState, change: line.write(state, value) };
}

/** Takes the line in hand, or keeps the value that it has now. */
export function menuEnter(state: CameraState): Step {
  const { cursor, before } = state.menuState;
  const value = lines[cursor]?.read(state);
  return { menuState: before === undefined ? { cursor, before: value } : { cursor }, change: {} };
}

/** Gives the line in hand its value of before. */
export function menuBack(state: CameraState): Step {
  const { cursor, before } = state.menuState;
  return { menuState: { cursor }, change: before === undefined ? {} : (lines[cursor]?.write(state, before) ?? {}) };
}
