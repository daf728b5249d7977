export { comparePlayed, type Played } from './compare';
export { planReplay, type PastReport, type ReplayStep } from './plan';
