import type { ControlRecord } from '../../core/show';

/** Conditions are edited like those of a control; a watch has no values that they could name. */
export const noControl: ControlRecord['data'] = {
  page: 'none',
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
