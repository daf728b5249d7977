// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { afterEach, beforeAll, expect, test, vi } from 'vitest';
import { stubListDom } from '../../../test/support/list-dom';
import { Select, type SelectOption } from './select';

const onChoose = vi.fn<(value: string) => void>();
beforeAll(stubListDom);
afterEach(() => {
  cleanup();
  onChoose.mockReset();
});

const options = (count: number): SelectOption[] => [
  { value: '', title: 'none' },
  ...Array.from({ length: count - 1 }, (_, n) => ({ value: `page-${n + 1}`, title: `Page ${n + 1}` })),
];
const shown = (props: Partial<Parameters<typeof Select>[0]>) =>
  render(<Select label="Page" options={options(4)} value="page-2" onChoose={onChoose} {...props} />);
const field = () => screen.getByRole('combobox', { name: 'Page' });
const open = () => fireEvent.keyDown(field(), { key: 'ArrowDown' });
const option = (name: string) => screen.getByRole('option', { name });

test('it shows what is chosen, and tells what was chosen', () => {
  shown({});
  expect(field().textContent).toBe('Page 2');
  open();
  expect(option('Page 2').dataset.state).toBe('checked');
  fireEvent.keyDown(option('Page 3'), { key: 'Enter' });
  expect(onChoose).toHaveBeenCalledExactlyOnceWith('page-3');
});

test('the empty value is an option like any other', () => {
  shown({ value: '' });
  expect(field().textContent).toBe('none');
  cleanup();
  shown({});
  open();
  fireEvent.keyDown(option('none'), { key: 'Enter' });
  expect(onChoose).toHaveBeenCalledExactlyOnceWith('');
});

test('what is not among the options shows the placeholder', () => {
  shown({ value: 'page-gone', placeholder: 'a page that no longer exists' });
  expect(field().textContent).toBe('a page that no longer exists');
});

test('what cannot be chosen is listed and not chosen', () => {
  shown({ options: options(4).map((each) => (each.value === 'page-3' ? { ...each, disabled: true } : each)) });
  open();
  expect(option('Page 3').getAttribute('aria-disabled')).toBe('true');
  fireEvent.keyDown(option('Page 3'), { key: 'Enter' });
  expect(onChoose).not.toHaveBeenCalled();
});

test('groups have their names, in the order in which they come first', () => {
  const grouped = options(4).map((each, n) => (n > 1 ? { ...each, group: n > 2 ? 'Others' : 'Used now' } : each));
  shown({ options: grouped });
  open();
  expect(screen.getAllByRole('group').map((group) => group.textContent)).toEqual(['Used nowPage 2', 'OthersPage 3']);
});

test('with more than twelve it is searched by typing', () => {
  shown({ options: options(13) });
  expect(field().textContent).toBe('Page 2');
  fireEvent.click(field());
  const typing = within(screen.getByRole('dialog')).getByRole('combobox');
  fireEvent.change(typing, { target: { value: 'page 11' } });
  fireEvent.keyDown(typing, { key: 'Enter' });
  expect(onChoose).toHaveBeenCalledExactlyOnceWith('page-11');
});
