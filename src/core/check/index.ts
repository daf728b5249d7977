export { problemsOf, type ShowProblem } from './problems';
