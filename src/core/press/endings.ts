/**
 * Why a press, a send or a run ended as `skipped`: nothing left for the device, and that was intended. Code branches on the code;
 * the reason beside it is for people.
 */
export const skipWords = {
  /** Something risky was not confirmed. */
  guarded: 'guarded',
  /** The aim is dry. */
  dry: 'dry',
  /** One of the control's rules bars it. */
  barred: 'barred',
  /** A question was not answered, or not in a way that the command takes. */
  'not-answered': 'not answered',
  /** The macro runs already and is not begun twice. */
  'runs-already': 'runs already',
  /** Too many wait for their turn, or run. */
  'too-many': 'too many',
  /** A person, another run or the end of the program stopped it. */
  stopped: 'stopped',
  /** The hand let go, or was gone, before its turn came. */
  'let-go': 'let go',
  /** There is nothing to send for this gesture. */
  'nothing-to-send': 'sends nothing',
  /** A newer value took its place. */
  overtaken: 'overtaken',
} as const;

export type SkipCode = keyof typeof skipWords;

export const skipCodes = Object.keys(skipWords) as SkipCode[];

/** How a control asks to be confirmed. */
export type Guard = 'hold' | 'twice';

/** What to do to have a guarded press sent. Without a control there is only the question on the desk. */
export const guardedReason = (guard: Guard | undefined): string =>
  guard === 'twice'
    ? 'Guarded: press it twice within a second and a half to send it.'
    : 'Guarded: hold it until the bar is full to send it.';

export const barredReason = 'One of its rules bars it now.';
export const dryReason = 'Dry: shown and recorded, not sent.';
export const nothingReason = 'This control has nothing to send for this gesture.';
export const letGoReason = 'Released before it could be sent.';
