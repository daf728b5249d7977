export { ControlProofs, Proofs } from './control-proofs';
export { answererName, askLineCheck, useLineCheck, type LineCheckDesk } from './use-line-check';
export { PersonAnswer } from './person-answer';
export { TroubleText } from './trouble-text';
export { WalkQuestions } from './walk-questions';
export { NameDialog } from './name-dialog';
export { kindWords, proofWords, StandingMark, StandingWord, standingText } from './words';
