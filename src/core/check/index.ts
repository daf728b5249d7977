export { conflictsOf, sameDevice } from './conflicts';
export { problemsOf } from './problems';
export { lackingWith, problemsOfControl, type ControlProblem } from './control-problems';
export { problemsOfPage, type PageProblem } from './page-problems';
export { devicesThatTell, warningsOfControl } from './control-warnings';
export { actsAfter, problemsOfMacro, type MacroProblem, type MacroSources } from './macro-problems';
export { problemsOfWatch, scheduleClockOf, type WatchProblem } from './watch-problems';
export { problemsBrought } from './import-problems';
