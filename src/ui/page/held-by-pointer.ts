import type { FocusEvent } from 'react';

/**
 * True when a control that loses the focus is still in a hand: another finger has touched another control. When the window itself
 * loses it, the control stays the active element, and nothing may go on.
 */
export const staysInHand = (event: FocusEvent, byPointer: boolean): boolean =>
  byPointer && document.activeElement !== event.currentTarget;
