export { freeTimerId, longestTimerS, mostTimers, timerListSchema, type TimerEntry } from './entry';
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
