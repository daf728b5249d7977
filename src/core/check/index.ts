export { conflictsOf, sameDevice, type Conflict } from './conflicts';
export { problemsOf, type ShowProblem } from './problems';
