// @vitest-environment jsdom
import { expect, it, test } from 'vitest';
import { placesAt, shortcutOf, shortcuts, type ShortcutPlace } from './shortcuts';

test.each([
  ['desk', 'k', { ctrlKey: true }, 'palette'],
  ['desk', 'Z', { ctrlKey: true, shiftKey: true }, 'redo'],
  ['desk', 'y', { ctrlKey: true }, 'redo'],
  ['desk', '?', { shiftKey: true }, 'help'],
  ['desk', 'k', {}, undefined],
  ['grid', 'ArrowLeft', {}, 'go'],
  ['grid', 'ArrowLeft', { shiftKey: true }, 'stretch'],
  ['grid', 'ArrowUp', { ctrlKey: true }, 'move'],
  ['grid', 'ArrowUp', { ctrlKey: true, shiftKey: true }, 'resize'],
  ['grid', 'ArrowUp', { altKey: true }, undefined],
  ['timeline', 'ArrowRight', { altKey: true }, 'millisecond'],
  ['timeline', 'Backspace', {}, 'remove'],
] as const)('on %s %s with %o is %s', (place, key, held, id) => {
  expect(shortcutOf(place, new KeyboardEvent('keydown', { key, ...held }))).toBe(id);
});

it('has each key once where it works: no two shortcuts of a screen are the same keys', () => {
  for (const places of [
    placesAt('/pages', true),
    placesAt('/pages', false),
    placesAt('/macros/m', false),
    placesAt('/rig', false),
  ]) {
    const keys = places.flatMap((place: ShortcutPlace) =>
      Object.values(shortcuts[place]).flatMap((each) => [...each.keys]),
    );
    expect(new Set(keys).size).toBe(keys.length);
  }
});
