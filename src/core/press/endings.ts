/**
 * Why a press, a send or a run ended as it did: one table for screens, record, API and its documentation. Code branches on these and never on
 * the sentence beside them, which is for people. `word` is what a mark on a button has room for.
 */
const endings = {
  reported: { ends: 'confirmed', word: 'reported', means: 'The device reported the effect.' },
  accepted: {
    ends: 'confirmed',
    word: 'accepted',
    means: 'The device accepted the command; it does not report the effect.',
  },
  'already-so': {
    ends: 'confirmed',
    word: 'already so',
    means: 'The device had already reported this state.',
  },
  superseded: {
    ends: 'confirmed',
    word: 'superseded',
    means: 'The device accepted the command, and the next one took effect before this one could be reported.',
  },
  'one-way': { ends: 'sent', word: 'one-way', means: 'The device cannot confirm anything.' },
  'timed-out': { ends: 'late', word: 'timed out', means: 'The device did not report the effect in time.' },
  'refused-by-device': {
    ends: 'refused',
    word: 'refused',
    means: 'The device refused the command and gave its own reason.',
  },
  'link-down': { ends: 'lost', word: 'link down', means: 'The connection was not up.' },
  'cut-off': {
    ends: 'lost',
    word: 'cut off',
    means: 'The connection broke before the command was sent, or before the device answered.',
  },
  'switched-off': { ends: 'lost', word: 'switched off', means: 'The device is switched off in the rig.' },
  missing: {
    ends: 'lost',
    word: 'missing',
    means: 'The device, its driver, the command or the control no longer exists.',
  },
  'bad-value': { ends: 'lost', word: 'bad value', means: 'The command cannot be made with these values.' },
  'not-kept': { ends: 'lost', word: 'not kept', means: 'The change could not be saved in the show.' },
  'not-allowed': { ends: 'lost', word: 'not allowed', means: 'This screen has no right to do that.' },
  guarded: { ends: 'skipped', word: 'guarded', means: 'The command is risky and was not confirmed.' },
  dry: { ends: 'skipped', word: 'dry', means: 'The aim is dry: the command was shown and recorded, but not sent.' },
  barred: { ends: 'skipped', word: 'barred', means: "One of the control's rules bars it." },
  unanswered: {
    ends: 'skipped',
    word: 'not answered',
    means: 'A question was not answered, or not in a way that the command takes.',
  },
  'running-already': {
    ends: 'skipped',
    word: 'already running',
    means: 'The macro is already running and was not started again.',
  },
  released: {
    ends: 'skipped',
    word: 'let go',
    means: "It was released, or its screen disconnected, before the command's turn came.",
  },
  'nothing-to-send': { ends: 'skipped', word: 'sends nothing', means: 'There is nothing to send for this gesture.' },
  overtaken: { ends: 'skipped', word: 'overtaken', means: 'A newer value took its place.' },
  'too-many': { ends: 'lost, skipped', word: 'too many', means: 'Too many commands wait, or too many macros run.' },
  stopped: { ends: 'any', word: 'stopped', means: 'A person, another run or the end of the program stopped it.' },
} as const;

export type Why = keyof typeof endings;

export const allWhys = Object.keys(endings) as Why[];

export const whyWord = (why: Why): string => endings[why].word;

/** All codes with their outcome and meaning, a line each. */
export const whyList = (): string =>
  allWhys.map((why) => `- \`${why}\` (${endings[why].ends}): ${endings[why].means}`).join('\n');

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
