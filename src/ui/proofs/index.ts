export { ControlProofs } from './control-proofs';
export { answererName, askLineCheck, useLineCheck, type LineCheckDesk } from './use-line-check';
export { kindWords, proofWords, StandingWord, standingText } from './words';
