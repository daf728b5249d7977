import { describe, expect, it } from 'vitest';
import { compiled } from '../../../test/support/records';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { startOf, type ControlRecord } from '../show';
import { hasPart, withPartOf } from './control-parts';

const switcher = compiled(visionSwitcher).document;
type Data = ControlRecord['data'];
const place = { page: 'p', type: 'button', col: 0, row: 0, cols: 1, rows: 1 } as const;
const take = (input: number): Data => ({ ...place, ...startOf(switcher, 'sw', 'take', { input }) });
const ready = (input: number): Data => ({ ...place, ...startOf(switcher, 'sw', 'ready', { input }) });
const blank: Data = { ...place, label: [], values: {}, responses: { tap: [] }, lamps: [] };

describe('one part of a control given to another', () => {
  it('leaves the other what it is about: its own input goes to program now', () => {
    const changed = withPartOf(ready(4), take(3), 'response');
    expect(changed?.responses.tap).toMatchObject([{ command: 'take', params: { input: { value: 'input' } } }]);
    expect(changed?.values).toEqual({ input: 4 });
    expect(changed?.lamps).toEqual(ready(4).lamps);
  });

  it('brings along the values that the other lacks', () => {
    expect(withPartOf(blank, take(3), 'response')?.values).toEqual({ input: 3 });
    expect(withPartOf(blank, take(3), 'lamp')?.values).toEqual({ input: 3 });
    expect(withPartOf(blank, take(3), 'label')?.values).toEqual({ input: 3 });
    expect(withPartOf(blank, take(3), 'look')?.values).toEqual({});
  });

  it('replaces a look as a whole, and nothing else', () => {
    const from: Data = { ...take(3), tint: 'sand', icon: 'camera' };
    const to: Data = { ...ready(4), tint: 'plum', picture: 'a'.repeat(64) };
    const { picture: _, ...rest } = to;
    expect(withPartOf(to, from, 'look')).toEqual({ ...rest, tint: 'sand', icon: 'camera' });
  });

  it('gives a response to controls of the same kind only', () => {
    expect(withPartOf({ ...blank, type: 'fader' }, take(3), 'response')).toBeUndefined();
    expect(withPartOf({ ...blank, type: 'readout' }, { ...blank, type: 'readout' }, 'response')).toBeUndefined();
  });

  it('is offered only where there is something to give', () => {
    const parts = ['label', 'look', 'response', 'lamp'] as const;
    expect(parts.filter((part) => hasPart(blank, part))).toEqual(['response']);
    expect(parts.filter((part) => hasPart({ ...take(3), tint: 'sand' }, part))).toEqual([...parts]);
  });
});
