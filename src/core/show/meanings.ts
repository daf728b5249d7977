import type { Meaning } from './records';

/** What lights a meaning in words, on the lamp itself. */
export const meaningWords: Readonly<Record<Meaning, string>> = {
  onAir: 'ON AIR',
  next: 'NEXT',
  warning: 'WARNING',
  recording: 'REC',
  fault: 'FAULT',
  active: 'ACTIVE',
};
