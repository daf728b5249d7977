export { ReadingIndex } from './reading-index';
export { lampNow, readingsOfLamps, type Lamp } from './rules';
