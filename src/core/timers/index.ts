export { clockKeys, clockView, type ClockView } from './clock-view';
export { mostTimers, timerListSchema, type TimerEntry } from './entry';
export { readLength, withoutTimer, withTimer, withTimerChanged, withTimerPlaced } from './list-edits';
export { initialTimers, leftMsOf, nextPhaseInMs, viewTimers, withList, type TimersState } from './machine';
export { answerTimers, changedReports, overlongLine, reportsOf, timeReport } from './conversation';
