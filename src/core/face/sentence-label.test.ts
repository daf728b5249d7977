import { describe, expect, it } from 'vitest';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { compileDriver } from '../driver';
import type { Reading } from '../reading';
import { recordSchema, type ControlRecord, type ReadingRef } from '../show';
import { faceOf, labelNow, readingsOfFace } from './control-face';

const compiled = compileDriver(visionSwitcher);
if (!compiled.ok) throw new Error('The driver does not compile.');
const { document } = compiled.value;
const documentOf = (device: string) => (device === 'sw' ? document : undefined);
const names: Record<string, Reading> = { 'input[5].name': { value: 'Drone', at: 1, freshness: 'fresh' } };
const readingNow = ({ key }: ReadingRef) => names[key];

const take = { device: 'sw', command: 'take', params: { input: 5 } };
function control(more: object): ControlRecord['data'] {
  const data = { page: 'p', col: 0, row: 0, type: 'button', label: [], ...more };
  const record = recordSchema.parse({ kind: 'control', id: 'c', version: 1, data });
  if (record.kind !== 'control') throw new Error('That is no control.');
  return record.data;
}
const shownBy = (more: object) =>
  labelNow(control(more), readingNow, documentOf)
    .map(({ text }) => text)
    .join('');

describe('a button without a label', () => {
  it('shows its first command as a sentence with the names that the device lists, and how many follow', () => {
    expect(shownBy({ responses: { tap: [take] } })).toBe('Take Drone to program');
    expect(shownBy({ label: [{ text: ' ' }], responses: { tap: [take] } })).toBe('Take Drone to program');
    expect(shownBy({ responses: { tap: [take, take, take] } })).toBe('Take Drone to program +2');
    expect(shownBy({ values: { n: 5 }, responses: { tap: [{ ...take, params: { input: { value: 'n' } } }] } })).toBe(
      'Take Drone to program',
    );
    expect(shownBy({ responses: { tap: [{ ...take, device: 'gone' }] } })).toBe('take');
  });

  it('shows its number until the device has listed the name, and follows that name', () => {
    const other = control({ responses: { tap: [{ ...take, params: { input: 7 } }] } });
    expect(labelNow(other, readingNow, documentOf)).toEqual([{ text: 'Take 7 to program' }]);
    expect(readingsOfFace(other, documentOf)).toContainEqual({ device: 'sw', key: 'input[7].name' });
  });

  it('shows its icon, its picture or the label of a rule alone where it has one', () => {
    expect(shownBy({ icon: 'camera', responses: { tap: [take] } })).toBe('');
    expect(shownBy({ picture: 'a'.repeat(64), responses: { tap: [take] } })).toBe('');
    const rule = { when: { op: 'equals', reading: { device: 'sw', key: 'input[5].name' }, to: 'Drone' } };
    const lamps = [{ ...rule, show: 'active', label: [{ text: 'On' }] }];
    const sources = { readingNow, documentOf, now: 0 };
    expect(faceOf(control({ lamps, responses: { tap: [take] } }), sources).segments).toEqual([{ text: 'On' }]);
    const iconByRule = [{ ...rule, show: 'active', icon: 'camera' }];
    expect(faceOf(control({ lamps: iconByRule, responses: { tap: [take] } }), sources).segments).toEqual([]);
  });

  it('shows nothing where it sends nothing, and neither does another kind of control', () => {
    expect(shownBy({ responses: { tap: [] } })).toBe('');
    expect(shownBy({ type: 'readout', responses: { tap: [take] } })).toBe('');
  });
});
