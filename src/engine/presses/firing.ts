import type { ControlRecord } from '../../core/show';

/** What happens by itself, as a control that is pressed. */
export const firing = (responses: ControlRecord['data']['responses']): ControlRecord => ({
  kind: 'control',
  id: 'fired',
  version: 1,
  data: {
    page: '',
    type: 'button',
    col: 0,
    row: 0,
    cols: 1,
    rows: 1,
    label: [],
    values: {},
    responses,
    lamps: [],
  },
});
