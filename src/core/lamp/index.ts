export { ReadingIndex } from './reading-index';
export { conditionNow, lookNow, readingsOfLamps, ruleNow, type Lamp } from './rules';
export { type LampMemory, type LampSources, type Truth } from './truth';
export { checkCel, formatCel, readCel, resultTypeOf } from './cel';
export { fitted, liveText, lookUpNow, readingsOfLive } from './live-argument';
