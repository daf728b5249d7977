export { changeWatchEdit, copyWatchEdit, newWatchEdit, placeWatchEdit, removeWatchEdit, watchesOf } from './edits';
export { hasKeys, keyCommand, keyOrderOf, keyReading, readingsOfWhen, sendsOfWatch, showsInput } from './key-tie';
export { judged, looked, newWatchState, switched, verdictWords, type Verdict, type WatchState } from './judge';
export { devicesOfTrial, tryDry, type DryTrial, type PastEvent } from './dry-trial';
export { groupsOf, messageMatch, patternProblem } from './message-pattern';
export { watchLoop } from './loops';
export { framesText, whenText } from './sentence';
export { isKnownZone, localTime, nextTime, scheduleProblem } from './schedule';
export { graphicsWithKey } from './ready-made';
