// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { stubListDom } from '../../../test/support/list-dom';
import { afterEach, beforeAll, expect, test, vi } from 'vitest';
import type { DriverParameter, DriverReading } from '../../core/driver';
import { ParamField } from './param-field';

const onChange = vi.fn();
beforeAll(stubListDom);
afterEach(() => {
  cleanup();
  onChange.mockReset();
});

const param = {
  title: 'Clip',
  value: { type: 'whole', min: 1, max: 99 },
  listFrom: 'clip[].name',
  sends: 'index',
  optional: false,
} as DriverParameter;
const family = (to: number) =>
  ({ title: 'Clip name', value: { type: 'text' }, index: { title: 'Clip', from: 1, to } }) as DriverReading;
const named = (count: number) =>
  Object.fromEntries(Array.from({ length: count }, (_, n) => [`clip[${n + 1}].name`, { value: `Heat ${n + 1}` }]));
const shown = (value: number | undefined, count: number) =>
  render(
    <ParamField
      param={param}
      value={value}
      readings={named(count) as never}
      family={family(40)}
      commits
      onChange={onChange}
    />,
  );

const choose = (list: HTMLElement, title: string) => {
  fireEvent.keyDown(list, { key: 'ArrowDown' });
  fireEvent.keyDown(screen.getByRole('option', { name: title }), { key: 'Enter' });
};

test('up to twelve are chosen from a list', () => {
  shown(2, 12);
  const list = screen.getByRole('combobox', { name: 'Clip' });
  expect(list.textContent).toBe('2 Heat 2');
  choose(list, '5 Heat 5');
  expect(onChange).toHaveBeenCalledWith(5);
});

test('more than twelve are found by typing', () => {
  shown(2, 30);
  const field = screen.getByRole('combobox', { name: 'Clip' });
  expect(field.textContent).toBe('2 Heat 2');
  fireEvent.click(field);
  const typing = within(screen.getByRole('dialog')).getByRole('combobox');
  fireEvent.change(typing, { target: { value: 'heat 27' } });
  fireEvent.keyDown(typing, { key: 'Enter' });
  expect(onChange).toHaveBeenCalledWith(27);
});

test('what is stored shows although the device does not list it now', () => {
  shown(35, 4);
  expect(screen.getByRole('combobox', { name: 'Clip' }).textContent).toBe('35, not listed now');
});

test('while the device has named nothing, all that there can be is offered', () => {
  shown(35, 0);
  expect(screen.getByRole('combobox', { name: 'Clip' }).textContent).toContain('35');
});

test('on and off are handed over as what they are', () => {
  const on = { title: 'Muted', value: { type: 'onOff' }, sends: 'index', optional: false } as DriverParameter;
  render(<ParamField param={on} value={false} commits onChange={onChange} />);
  choose(screen.getByRole('combobox', { name: 'Muted' }), 'on');
  expect(onChange).toHaveBeenCalledWith(true);
});
