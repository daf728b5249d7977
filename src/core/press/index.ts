export { clashesOf, whyNotWith, type Combinable } from './combinations';
export {
  allWhys,
  barredReason,
  dryReason,
  guardedReason,
  letGoReason,
  nothingReason,
  type Guard,
  whyList,
  whyWord,
  type Why,
} from './endings';
export { targetOf } from './targets';
