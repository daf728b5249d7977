// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { afterEach, expect, it } from 'vitest';
import { ChipsInput } from './chips-input';

afterEach(cleanup);

function Chips({ first }: { readonly first: readonly string[] }) {
  const [values, setValues] = useState(first);
  return (
    <>
      <ChipsInput label="Crews" values={values} onChange={setValues} most={4} />
      <output>{JSON.stringify(values)}</output>
    </>
  );
}

const stored = () => JSON.parse(screen.getByRole('status').textContent ?? '') as string[];
const field = () => screen.getByRole('textbox', { name: 'Crews' });
const type = (text: string, key?: string) => {
  fireEvent.change(field(), { target: { value: text } });
  if (key !== undefined) fireEvent.keyDown(field(), { key });
};

it('adds what is typed with Enter, a comma or by leaving, and no value twice', () => {
  render(<Chips first={[]} />);
  type(' Marsh Lane ', 'Enter');
  type('Eelbridge', ',');
  type('Eelbridge', 'Enter');
  type('Saltings');
  fireEvent.blur(field());
  expect(stored()).toEqual(['Marsh Lane', 'Eelbridge', 'Saltings']);
});

it('adds several at once from a list, as many as it takes', () => {
  render(<Chips first={['A']} />);
  fireEvent.paste(field(), { clipboardData: { getData: () => 'B, C,, D, E' } });
  expect(stored()).toEqual(['A', 'B', 'C', 'D']);
  expect(field()).toHaveProperty('disabled', true);
});

it('removes one by its button, and the last with Backspace in the empty field only', () => {
  render(<Chips first={['A', 'B', 'C']} />);
  fireEvent.click(screen.getByRole('button', { name: 'Remove A' }));
  type('x');
  fireEvent.keyDown(field(), { key: 'Backspace' });
  expect(stored()).toEqual(['B', 'C']);
  type('');
  fireEvent.keyDown(field(), { key: 'Backspace' });
  expect(stored()).toEqual(['B']);
});

it('gives up what is typed with Escape', () => {
  render(<Chips first={['A']} />);
  type('half', 'Escape');
  fireEvent.blur(field());
  expect(stored()).toEqual(['A']);
});
