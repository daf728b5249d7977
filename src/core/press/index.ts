export { clashesOf, whyNotWith, type Combinable } from './combinations';
export {
  barredReason,
  dryReason,
  guardedReason,
  letGoReason,
  nothingReason,
  skipCodes,
  skipWords,
  type Guard,
  type SkipCode,
} from './endings';
export { targetOf } from './targets';
