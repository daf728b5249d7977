export { comparePlayed, type Compared, type Played } from './compare';
export { planReplay, type PastCall, type PastReport, type ReplayPlan, type ReplayStep } from './plan';
