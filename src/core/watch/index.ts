export { changeWatchEdit, copyWatchEdit, newWatchEdit, placeWatchEdit, removeWatchEdit, watchesOf } from './edits';
export { judged, looked, newWatchState, switched, verdictWords, type Verdict, type WatchState } from './judge';
export { watchLoop } from './loops';
export { whenText } from './sentence';
export { isKnownZone, localTime, nextTime, scheduleProblem } from './schedule';
