// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, expect, it, vi } from 'vitest';
import { NumberField } from './number-field';

afterEach(cleanup);

const type = (text: string) => {
  const field = screen.getByRole('spinbutton', { name: 'Mix time' });
  fireEvent.change(field, { target: { value: text } });
  fireEvent.keyDown(field, { key: 'Enter' });
  return field;
};

it('stores a number within its range once, and shows its unit', () => {
  const onCommit = vi.fn();
  render(<NumberField label="Mix time" value={480} min={0} max={5000} unit="ms" onCommit={onCommit} />);
  expect(screen.getByText('ms')).toBeTruthy();
  type('520');
  expect(onCommit.mock.calls).toEqual([[520]]);
});

it('stores nothing outside the range, keeps what was typed and says what it takes', () => {
  const onCommit = vi.fn();
  render(<NumberField label="Mix time" value={480} min={0} max={5000} unit="ms" onCommit={onCommit} />);
  const field = type('9000');
  expect(onCommit).not.toHaveBeenCalled();
  expect(field).toHaveProperty('value', '9000');
  expect(field.getAttribute('aria-invalid')).toBe('true');
  expect(screen.getByRole('alert').textContent).toBe('Enter a number from 0 to 5000 ms.');
  type('900');
  expect(onCommit.mock.calls).toEqual([[900]]);
  expect(screen.queryByRole('alert')).toBeNull();
});

it('gives the stored number back with Escape, and when another is stored meanwhile', () => {
  const { rerender } = render(<NumberField label="Mix time" value={480} min={0} max={5000} onCommit={vi.fn()} />);
  const field = type('9000');
  fireEvent.keyDown(field, { key: 'Escape' });
  expect(field).toHaveProperty('value', '480');
  type('9000');
  rerender(<NumberField label="Mix time" value={600} min={0} max={5000} onCommit={vi.fn()} />);
  expect(field).toHaveProperty('value', '600');
  expect(screen.queryByRole('alert')).toBeNull();
});
