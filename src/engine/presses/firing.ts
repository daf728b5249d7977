import { plainButton, type ControlRecord } from '../../core/show';

/** What happens by itself, as a control that is pressed. */
export const firing = (responses: ControlRecord['data']['responses']): ControlRecord => ({
  kind: 'control',
  id: 'fired',
  version: 1,
  data: { ...plainButton, responses },
});
