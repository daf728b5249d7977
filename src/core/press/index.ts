export { clashesOf, whyNotWith, type Combinable } from './combinations';
export {
  allWhys,
  barredReason,
  dryReason,
  guardedReason,
  letGoReason,
  type Guard,
  whyList,
  whyWord,
  type Why,
} from './endings';
export { originalOf, settled } from './settled';
export { targetOf } from './targets';
export { handlingOf } from './handling';
export { worstOutcome, type FinalOutcome, type Outcome } from './outcome';
export { nextTurn } from './turns';
export {
  newPress,
  stepPress,
  type Ending,
  type PressContext,
  type PressEffect,
  type PressEvent,
  type PressTimer,
} from './account';
