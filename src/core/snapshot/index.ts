export {
  beginGlide,
  advanceGlide,
  fadeSends,
  glideWakeAt,
  holdGlide,
  isEmpty,
  morphSends,
  reachedBy,
  resumeGlide,
  shareAt,
  stopGlide,
  keyOfTrack,
  turnGlide,
  withoutTracks,
  type Glide,
  type GlideSend,
} from './glide';
export { planCall, type PlannedTrack } from './plan';
export { isSame, keysOf, tracksOf, type Track } from './tracks';
export { groupsNamed, groupsOf, take, type KeepOf } from './take';
export { differencesBetween, differencesNow, stateNow, type SnapshotState } from './state';
export { blackReason, isNoSource } from './black';
export { foldersOf, freeNumber, inFolderOrder, snapshotsOf, stepInFolder } from './folders';
export { pictureOf, stillOf } from './picture';
export {
  changeSnapshotEdit,
  copySnapshotEdit,
  addSnapshotsEdit,
  newSnapshotEdit,
  numberProblem,
  overwriteEdit,
  placeSnapshotEdit,
  removeSnapshotEdit,
  swapBackEdit,
  withPartOf,
  withValue,
} from './edits';
export { boxesOf, isLayout, partOfBoxes, withBox, type KeptBox } from './layout';
export { shelfLayouts } from './shelf';
