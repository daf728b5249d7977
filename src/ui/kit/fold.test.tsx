// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { Fold } from './fold';

beforeEach(() => localStorage.clear());
afterEach(cleanup);

const pane = (
  <>
    <Fold name="Lamp">
      <p>never</p>
    </Fold>
    <Fold name="What it shows" title="It shows">
      <p>nothing</p>
    </Fold>
  </>
);

it('folds one part of a pane, and the next pane has it folded too', () => {
  const first = render(pane);
  expect(screen.getByRole('region', { name: 'What it shows' })).toBeTruthy();
  const button = screen.getByRole('button', { name: 'Lamp' });
  expect(button.getAttribute('aria-expanded')).toBe('true');
  fireEvent.click(button);
  expect(screen.queryByText('never')).toBeNull();
  expect(screen.getByText('nothing')).toBeTruthy();
  first.unmount();

  render(pane);
  expect(screen.queryByText('never')).toBeNull();
  fireEvent.click(screen.getByRole('button', { name: 'Lamp' }));
  expect(screen.getByText('never')).toBeTruthy();
});
