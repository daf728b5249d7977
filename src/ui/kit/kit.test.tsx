// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { afterEach, expect, it, vi } from 'vitest';
import { Button, buttonClass } from './button';
import { DateTimeField } from './date-time-field';
import { Confirm } from './dialog';
import { Progress } from './progress';
import { Segmented } from './segmented';
import { Switch } from './switch';
import { TextField } from './text-field';

afterEach(cleanup);

it('no two classes of a button contend for one property', () => {
  const property = /^(?:[a-z-]+:)*(px|bg|text|border)-/;
  for (const kind of ['plain', 'strong', 'live', 'ghost', 'icon'] as const) {
    const words = buttonClass({ kind, className: 'ml-auto' }).split(' ');
    const plain = words.filter((word) => !word.includes(':') && property.test(word));
    const names = plain.map((word) => property.exec(word)?.[1]);
    expect({ kind, names: new Set(names).size }).toEqual({ kind, names: names.length });
    expect(words).toContain('ml-auto');
  }
});

it('a field reads its help and its error with its label', () => {
  render(<TextField label="Tag" value="1A" help="Shown on buttons." error="A letter first." onCommit={vi.fn()} />);
  const field = screen.getByRole('textbox', { name: 'Tag' });
  const says = (field.getAttribute('aria-describedby') ?? '')
    .split(' ')
    .map((id) => document.getElementById(id)?.textContent);
  expect(says).toEqual(['Shown on buttons.', 'A letter first.']);
  expect(field.getAttribute('aria-invalid')).toBe('true');
});

it('of a segmented choice one is always chosen', () => {
  const onChoose = vi.fn();
  const options = [
    { value: 'press', title: 'Press' },
    { value: 'edit', title: 'Edit' },
  ] as const;
  render(<Segmented label="Mode" value="press" options={options} onChoose={onChoose} />);
  fireEvent.click(screen.getByRole('radio', { name: 'Press' }));
  expect(onChoose).not.toHaveBeenCalled();
  fireEvent.click(screen.getByRole('radio', { name: 'Edit' }));
  expect(onChoose.mock.calls).toEqual([['edit']]);
});

it('a switch is switched by its label, too', () => {
  const onChange = vi.fn();
  render(<Switch label="Linked" checked={false} onChange={onChange} />);
  fireEvent.click(screen.getByText('Linked'));
  expect(onChange.mock.calls).toEqual([[true]]);
});

it('a confirmation has the focus on Cancel and acts only on its button', () => {
  const onAct = vi.fn();
  render(
    <Confirm title="Remove C2?" act="Remove device" trigger={<Button>Remove</Button>} onAct={onAct}>
      Four controls use it.
    </Confirm>,
  );
  fireEvent.click(screen.getByRole('button', { name: 'Remove' }));
  const dialog = screen.getByRole('alertdialog', { name: 'Remove C2?' });
  expect(document.activeElement?.textContent).toBe('Cancel');
  fireEvent.click(within(dialog).getByRole('button', { name: 'Cancel' }));
  expect(onAct).not.toHaveBeenCalled();
  fireEvent.click(screen.getByRole('button', { name: 'Remove' }));
  fireEvent.click(screen.getByRole('button', { name: 'Remove device' }));
  expect(onAct).toHaveBeenCalledTimes(1);
});

it('progress is read as a percentage, and as under way while it is not known', () => {
  const { rerender } = render(<Progress label="Search" part={0.4} />);
  const bar = screen.getByRole('progressbar', { name: 'Search' });
  expect(bar.getAttribute('aria-valuenow')).toBe('40');
  rerender(<Progress label="Search" part={undefined} />);
  expect(bar.getAttribute('aria-valuenow')).toBeNull();
});

it('a date keeps its time when another day is chosen, and a time its day', () => {
  const onChange = vi.fn();
  render(<DateTimeField label="Starts at" value="2026-05-17T10:30" onChange={onChange} />);
  fireEvent.click(screen.getByRole('button', { name: 'Starts at' }));
  const day = screen.getAllByRole('button').find((button) => button.textContent === '19');
  if (!day) throw new Error('The calendar has no 19th.');
  fireEvent.click(day);
  const time = screen.getByLabelText('Time');
  // Typed piece by piece, it is stored once.
  fireEvent.change(time, { target: { value: '09:30' } });
  fireEvent.change(time, { target: { value: '09:05' } });
  fireEvent.blur(time);
  fireEvent.click(screen.getByRole('button', { name: 'Clear' }));
  expect(onChange.mock.calls).toEqual([['2026-05-19T10:30'], ['2026-05-17T09:05'], [undefined]]);
});
