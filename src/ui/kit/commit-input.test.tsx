// @vitest-environment jsdom
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { CommitInput } from './commit-input';

const onCommit = vi.fn();
const field = () => screen.getByLabelText<HTMLInputElement>('Field');
const type = (text: string) => fireEvent.change(field(), { target: { value: text } });
const pass = (ms: number) => act(() => vi.advanceTimersByTime(ms));

beforeEach(() => {
  vi.useFakeTimers();
  onCommit.mockReset();
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

/** A field whose stored value somebody else can change. */
function shown(value: string, type: 'text' | 'number' = 'text') {
  const at = (stored: string) => <CommitInput aria-label="Field" type={type} value={stored} onCommit={onCommit} />;
  const { rerender, unmount } = render(at(value));
  return { store: (stored: string) => rerender(at(stored)), unmount };
}

test('what is typed is stored once, with Enter, and not again when the field is left', () => {
  const { store } = shown('Race');
  type('Races');
  expect(onCommit).not.toHaveBeenCalled();
  fireEvent.keyDown(field(), { key: 'Enter' });
  store('Races');
  fireEvent.blur(field());
  expect(onCommit.mock.calls).toEqual([['Races']]);
});

test('what is typed is stored when the field is left', () => {
  shown('Race');
  type('Races');
  fireEvent.blur(field());
  expect(onCommit.mock.calls).toEqual([['Races']]);
});

test('a field that is only visited, or gets its own text back, stores nothing', () => {
  shown('Race');
  fireEvent.focus(field());
  fireEvent.blur(field());
  type('Races');
  type('Race');
  fireEvent.keyDown(field(), { key: 'Enter' });
  fireEvent.blur(field());
  expect(onCommit).not.toHaveBeenCalled();
});

test('Escape gives the stored text back and leaves Escape to nobody else', () => {
  const outside = vi.fn();
  render(
    <div onKeyDown={outside}>
      <CommitInput aria-label="Field" value="Race" onCommit={onCommit} />
    </div>,
  );
  type('Races');
  fireEvent.keyDown(field(), { key: 'Escape' });
  expect(field().value).toBe('Race');
  expect(outside).not.toHaveBeenCalled();
  fireEvent.blur(field());
  expect(onCommit).not.toHaveBeenCalled();
  // With nothing typed it closes whatever is around the field.
  fireEvent.keyDown(field(), { key: 'Escape' });
  expect(outside).toHaveBeenCalledOnce();
});

test('what somebody else stores shows at once in a field in which nothing is typed', () => {
  const { store } = shown('Race');
  store('Regatta');
  expect(field().value).toBe('Regatta');
  expect(screen.queryByRole('alert')).toBeNull();
});

test('with two writers the field keeps what is typed, says what was stored meanwhile, and stores nothing when it is left', () => {
  const { store } = shown('Race');
  type('Races');
  store('Regatta');
  expect(field().value).toBe('Races');
  expect(screen.getByRole('alert').textContent).toContain('Regatta');
  fireEvent.blur(field());
  expect(onCommit).not.toHaveBeenCalled();
  fireEvent.keyDown(field(), { key: 'Enter' });
  expect(onCommit.mock.calls).toEqual([['Races']]);
});

test('with two writers Escape takes what the other has stored', () => {
  const { store } = shown('Race');
  type('Races');
  store('Regatta');
  fireEvent.keyDown(field(), { key: 'Escape' });
  expect(field().value).toBe('Regatta');
  expect(screen.queryByRole('alert')).toBeNull();
  expect(onCommit).not.toHaveBeenCalled();
});

test('a number is stored a moment after the last step of its arrows', () => {
  shown('10', 'number');
  type('11');
  pass(500);
  type('12');
  pass(599);
  expect(onCommit).not.toHaveBeenCalled();
  pass(1);
  expect(onCommit.mock.calls).toEqual([['12']]);
});

test('a step of the arrows does not store over what somebody else has stored since', () => {
  const { store } = shown('10', 'number');
  type('11');
  pass(300);
  store('40');
  pass(1000);
  expect(onCommit).not.toHaveBeenCalled();
  expect(screen.getByRole('alert').textContent).toContain('40');
});

test('a number that disappears with its pane right after a step is stored', () => {
  const { unmount } = shown('10', 'number');
  type('11');
  unmount();
  pass(1000);
  expect(onCommit.mock.calls).toEqual([['11']]);
});
