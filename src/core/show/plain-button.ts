import type { ControlRecord } from './records';

/** The data of a button with nothing on it: where something is judged or pressed like a control, and is none. */
export const plainButton: ControlRecord['data'] = {
  page: '',
  type: 'button',
  col: 0,
  row: 0,
  cols: 1,
  rows: 1,
  label: [],
  values: {},
  responses: { tap: [] },
  lamps: [],
};
