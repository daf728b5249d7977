export { axisOf, fittingScale, type Axis } from './axis';
export { givenProblem, valuesOf } from './arguments';
export {
  changeMacroEdit,
  copiedSteps,
  copyMacroEdit,
  macrosOf,
  movedSegment,
  newMacroEdit,
  nudged,
  placedStep,
  removeMacroEdit,
  roundedMs,
  snapped,
  withoutSteps,
  withSegment,
  withSteps,
} from './edits';
export { frameOfTimecode, msOfFrame, nearestFrame, rateOf, rateOfShow, timecodeOf, type Rate } from './frames';
export { calledBy, loopOf, sendsOfMacro } from './loops';
export { summaryOf, type PastRun, type RanStep } from './past-runs';
export { momentsOf, planOf, sendsOfStep, type ActsAfter, type PlannedSegment, type PlannedStep } from './plan';
export { advanceRun, beginRun, leaveRun, wakeAt, type DueStep, type Run, type RunEnd } from './run';
export {
  beginRecording,
  commandBehind,
  hearCommand,
  hearMacro,
  hearReading,
  isFull,
  quieten,
  recordedEdit,
  type Heard,
  type Recording,
} from './recorded';
