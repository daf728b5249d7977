export { OwnAdditions } from './own-additions';
export { ProblemList } from './problem-list';
