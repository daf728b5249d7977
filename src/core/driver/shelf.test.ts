import { describe, expect, it } from 'vitest';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { DriverShelf } from './shelf';

const other = { ...visionSwitcher, id: 'other' };

describe('a stocked document', () => {
  it('is at hand at once and read when it is first used', () => {
    const shelf = new DriverShelf();
    shelf.stock([visionSwitcher, other]);
    expect(shelf.ids).toEqual(['vision-switcher', 'other']);
    expect(shelf.for({ driver: 'other' })?.document.id).toBe('other');
    expect(shelf.for({ driver: 'other' })).toBe(shelf.for({ driver: 'other' }));
    // Of two one was left to be read ahead.
    expect([shelf.compileNext(), shelf.compileNext()]).toEqual([true, false]);
    expect([...shelf.ids].sort()).toEqual(['other', 'vision-switcher']);
  });

  it('gives way to one that is installed over it, and says what is wrong with it when it is used', () => {
    const shelf = new DriverShelf();
    shelf.stock([visionSwitcher, { ...other, framing: {} }]);
    expect(shelf.put([{ ...visionSwitcher, title: 'Mine' }])).toEqual([]);
    expect(shelf.for({ driver: 'vision-switcher' })?.document.title).toBe('Mine');
    const wrong = shelf.resultFor({ driver: 'other' });
    expect(!wrong.ok && wrong.error[0]?.path).toMatch(/^framing/);
    expect(shelf.compileNext()).toBe(false);
    shelf.remove('vision-switcher');
    expect(shelf.for({ driver: 'vision-switcher' })).toBeUndefined();
  });
});
