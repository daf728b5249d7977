export { argumentNow, givenProblem, valuesOf } from './arguments';
export {
  changeMacroEdit,
  copiedSteps,
  copyMacroEdit,
  macrosOf,
  movedSegment,
  newMacroEdit,
  nudged,
  removeMacroEdit,
  roundedMs,
  snapped,
  withoutSteps,
  withSegment,
  withSteps,
} from './edits';
export { frameAt, frameOfTimecode, msOfFrame, nearestFrame, rateOf, rateOfShow, timecodeOf, type Rate } from './frames';
export { calledBy, loopOf, sendsOfMacro } from './loops';
export { summaryOf, type PastRun, type RanStep, type StepSummary } from './past-runs';
export { momentsOf, planOf, sendsOfStep, type ActsAfter, type PlannedSegment, type PlannedStep } from './plan';
export { advanceRun, beginRun, leaveRun, wakeAt, type DueStep, type Run, type RunEnd, type RunPhase } from './run';
export {
  beginRecording,
  commandBehind,
  hearCommand,
  hearMacro,
  hearReading,
  isFull,
  mostHeard,
  quieten,
  recordedEdit,
  type Heard,
  type Recording,
} from './recorded';
