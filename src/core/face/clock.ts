import { valueText, type ValueShape } from '../driver';

const shown: ValueShape = { type: 'time', writes: 'seconds', fps: 25 };

/** Seconds as people read them on a panel: `0:42`, `1:02:07`, and below zero `-0:05`. Parts of a second are cut off. */
export const clockText = (seconds: number): string =>
  valueText(shown, seconds < 0 ? Math.ceil(seconds - 1e-6) + 0 : Math.floor(seconds + 1e-6));
