export { clashesOf, whyNotWith, type Combinable } from './combinations';
export {
  barredReason,
  dryReason,
  guardedReason,
  letGoReason,
  nothingReason,
  skipWords,
  type Guard,
  type SkipCode,
} from './endings';
export { targetOf } from './targets';
