// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { stubListDom } from '../../../test/support/list-dom';
import { afterEach, beforeAll, beforeEach, expect, test, vi } from 'vitest';
import type { PickEntry } from '../../core/pick';
import { Picker } from './picker';

const entries: PickEntry[] = [
  { id: 'take', title: 'Take to program', tag: 'SW1', group: 'Switcher' },
  { id: 'cut', title: 'Cut', tag: 'SW1', group: 'Switcher' },
  {
    id: 'recall',
    title: 'Recall a preset',
    tag: 'C2',
    group: 'Mid-course',
    params: [{ name: 'preset', read: (word) => (/^\d+$/.test(word) ? Number(word) : undefined) }],
  },
];
const onPick = vi.fn();
const onNone = vi.fn();

beforeAll(stubListDom);
beforeEach(() => {
  localStorage.clear();
  onPick.mockReset();
  onNone.mockReset();
});
afterEach(cleanup);

const show = (more: Partial<Parameters<typeof Picker>[0]> = {}) =>
  render(
    <Picker
      label="It sends"
      entries={() => entries}
      value="cut"
      shown="Cut"
      memory="test"
      onPick={onPick}
      onNone={{ title: 'nothing', pick: onNone }}
      {...(more as object)}
    />,
  );
const field = () => screen.getByRole('combobox', { name: 'It sends' });
const list = () => screen.getByRole('dialog', { name: 'It sends' });
const typing = () => within(list()).getByRole<HTMLInputElement>('combobox');
const rows = () =>
  within(list())
    .getAllByRole('option')
    .map((row) => row.textContent);
const type = (text: string) => fireEvent.change(typing(), { target: { value: text } });

test('the closed field says what is picked, and by its label what that is for', () => {
  show();
  expect(field().textContent).toBe('Cut');
  expect(screen.queryByRole('dialog')).toBeNull();
});

test('a letter on the closed field opens the list with it, and the next letters are not lost', () => {
  show();
  fireEvent.keyDown(field(), { key: 'r' });
  expect(typing().value).toBe('r');
  expect(document.activeElement).toBe(typing());
  expect(typing().selectionStart).toBe(1);
  expect(typing().selectionEnd).toBe(1);
  fireEvent.keyDown(field(), { key: 'e' });
  expect(typing().value).toBe('re');
});

test('a shortcut on the closed field is left alone', () => {
  show();
  fireEvent.keyDown(field(), { key: 'z', ctrlKey: true });
  expect(screen.queryByRole('dialog')).toBeNull();
});

test('words narrow the list, the count says how far, and Enter picks the first with the values typed', () => {
  show();
  fireEvent.click(field());
  expect(rows()).toEqual(['nothing', 'SW1Take to program', 'SW1Cut', 'C2Recall a preset']);
  type('pre 4 c2');
  expect(rows()).toEqual(['C2Recall a preset']);
  expect(within(list()).getByText('1 of 3')).toBeTruthy();
  fireEvent.keyDown(typing(), { key: 'Enter' });
  expect(onPick.mock.calls).toEqual([[entries[2], { preset: 4 }]]);
  expect(screen.queryByRole('dialog')).toBeNull();
});

test('what fits nothing says so, and Enter does nothing', () => {
  show();
  fireEvent.click(field());
  type('xyz');
  expect(list().textContent).toContain('Nothing matches “xyz”');
  fireEvent.keyDown(typing(), { key: 'Enter' });
  expect(onPick).not.toHaveBeenCalled();
});

test('nothing can be picked where that is allowed', () => {
  show();
  fireEvent.click(field());
  fireEvent.click(within(list()).getByText('nothing'));
  expect(onNone).toHaveBeenCalledOnce();
});

test('what was picked last stands on top the next time', () => {
  show();
  fireEvent.click(field());
  type('recall');
  fireEvent.keyDown(typing(), { key: 'Enter' });
  fireEvent.click(field());
  expect(list().textContent).toContain('Used last');
  expect(rows()[0]).toBe('C2Recall a preset');
});

test('Escape closes the list and picks nothing', () => {
  show();
  fireEvent.click(field());
  fireEvent.keyDown(typing(), { key: 'Escape' });
  expect(screen.queryByRole('dialog')).toBeNull();
  expect(onPick).not.toHaveBeenCalled();
});

test('of five thousand entries only so many are drawn, and the last is found', () => {
  const many = Array.from({ length: 5000 }, (_, n): PickEntry => ({
    id: `e${n}`,
    title: `Entry number ${n}`,
    tag: `D${n % 50}`,
  }));
  show({ entries: many } as never);
  fireEvent.click(field());
  expect(rows().length).toBeLessThan(100);
  type('4999');
  expect(rows()).toEqual(['D49Entry number 4999']);
});
