import { matchKeyBindingPress, parseKeybinding } from 'tinykeys';

/** Where keys are pressed. */
export type ShortcutPlace = 'desk' | 'page' | 'grid' | 'timeline';

interface Shortcut {
  /** As tinykeys reads them; `$mod` is Ctrl, and the command key on a Mac. Empty where the browser itself does it. */
  readonly keys: readonly string[];
  /** As a person reads them. */
  readonly shown: string;
  readonly title: string;
}

const arrows = (before = ''): readonly string[] =>
  ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'].map((key) => before + key);
const sideways = (before = ''): readonly string[] => ['ArrowLeft', 'ArrowRight'].map((key) => before + key);

/** Every shortcut of the desk, for the handlers that act on them, the palette that shows them and the help that lists them. */
export const shortcuts = {
  desk: {
    palette: { keys: ['$mod+k'], shown: 'Ctrl K', title: 'Find an action' },
    help: { keys: ['Shift+?'], shown: '?', title: 'List the shortcuts that work here' },
    undo: { keys: ['$mod+z'], shown: 'Ctrl Z', title: 'Undo the last edit' },
    redo: { keys: ['$mod+Shift+z', '$mod+y'], shown: 'Ctrl Shift Z', title: 'Redo' },
    veil: { keys: ['F8'], shown: 'F8', title: 'Hide or show addresses, names and secrets' },
    cancel: { keys: [], shown: 'Escape', title: 'Close what is open; cancel a drag' },
  },
  page: {
    press: { keys: [], shown: 'Space, Enter', title: 'Press the control; hold the key to hold the control' },
    turn: { keys: [], shown: 'Arrows', title: 'Move a fader, a dial or a stick' },
    next: { keys: [], shown: 'Tab', title: 'Go to the next control' },
  },
  grid: {
    go: { keys: arrows(), shown: 'Arrows', title: 'Go from cell to cell' },
    stretch: { keys: arrows('Shift+'), shown: 'Shift arrows', title: 'Choose an area' },
    move: { keys: arrows('$mod+'), shown: 'Ctrl arrows', title: 'Move what is chosen; it swaps places' },
    resize: { keys: arrows('$mod+Shift+'), shown: 'Ctrl Shift arrows', title: 'Make the control larger or smaller' },
    search: { keys: [], shown: 'Any letter', title: 'In an empty cell: search what the rig offers' },
    label: { keys: ['Enter'], shown: 'Enter', title: 'On a control: edit its label' },
    cut: { keys: [], shown: 'Ctrl X, C, V', title: 'Cut, copy and paste, also between windows' },
    duplicate: { keys: ['$mod+d'], shown: 'Ctrl D', title: 'Duplicate' },
    clear: { keys: ['Delete', 'Backspace'], shown: 'Delete', title: 'Remove from the page' },
    all: { keys: ['$mod+a'], shown: 'Ctrl A', title: 'Choose all controls' },
  },
  timeline: {
    frame: { keys: sideways(), shown: '← →', title: 'Move the chosen steps by a frame' },
    ten: { keys: sideways('Shift+'), shown: 'Shift ← →', title: 'Move the chosen steps by ten frames' },
    millisecond: { keys: sideways('Alt+'), shown: 'Alt ← →', title: 'Move the chosen steps by a millisecond' },
    copy: { keys: ['$mod+d'], shown: 'Ctrl D', title: 'Duplicate the chosen steps' },
    remove: { keys: ['Delete', 'Backspace'], shown: 'Delete', title: 'Remove the chosen steps' },
    none: { keys: ['Escape'], shown: 'Escape', title: 'Choose none' },
  },
} as const satisfies Readonly<Record<ShortcutPlace, Readonly<Record<string, Shortcut>>>>;

type Id<Place extends ShortcutPlace> = keyof (typeof shortcuts)[Place] & string;

const presses = new Map(
  Object.values(shortcuts).flatMap((place: Readonly<Record<string, Shortcut>>) =>
    Object.values(place).flatMap(({ keys }) => keys.map((key) => [key, parseKeybinding(key)[0]] as const)),
  ),
);

/** Which shortcut of a place the keys of an event are; `undefined` when they are none. */
export function shortcutOf<Place extends ShortcutPlace>(place: Place, event: KeyboardEvent): Id<Place> | undefined {
  const all: Readonly<Record<string, Shortcut>> = shortcuts[place];
  for (const [id, { keys }] of Object.entries(all))
    for (const key of keys) {
      const press = presses.get(key);
      if (press && matchKeyBindingPress(event, press)) return id as Id<Place>;
    }
  return undefined;
}

/** Keys that write something belong to the field that has the focus. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.closest('input, textarea, [contenteditable]') !== null;

/** The places whose shortcuts work on the screen at an address. */
export function placesAt(path: string, isEditing: boolean): readonly ShortcutPlace[] {
  if (path.startsWith('/pages')) return [isEditing ? 'grid' : 'page', 'desk'];
  return path.startsWith('/macros') ? ['timeline', 'desk'] : ['desk'];
}

export const placeNames: Readonly<Record<ShortcutPlace, string>> = {
  desk: 'On every screen',
  page: 'On the page',
  grid: 'In the page editor',
  timeline: 'On the timeline of a macro',
};

/** Keys as this computer names them. */
export const keysText = (shown: string): string =>
  typeof navigator !== 'undefined' && /Mac|iPhone|iPad/.test(navigator.platform)
    ? shown.replace(/\bCtrl\b/g, '⌘')
    : shown;
