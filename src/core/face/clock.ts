import { valueText, type ValueShape } from '../driver';

const shown: ValueShape = { type: 'time', writes: 'seconds', fps: 25 };

/** Seconds as people read them on a panel: `0:42`, `1:02:07`. */
export const clockText = (seconds: number): string => valueText(shown, Math.floor(seconds + 1e-6));
