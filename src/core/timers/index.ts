export { clockKeys, clockView, type ClockView } from './clock-view';
export { freeTimerId, longestTimerS, mostTimers, timerListSchema, type TimerEntry } from './entry';
export { readLength, withoutTimer, withTimer, withTimerChanged, withTimerPlaced } from './list-edits';
export {
  initialTimers,
  leftMsOf,
  nextPhaseInMs,
  viewTimers,
  withList,
  type TimerPhase,
  type TimersState,
  type TimersView,
} from './machine';
export {
  answerTimers,
  changedReports,
  overlongLine,
  reportsOf,
  timeReport,
  type TimeOfDay,
  type TimersAnswer,
} from './conversation';
