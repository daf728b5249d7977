export {
  newestAsRun,
  pruneAsRun,
  readEngineState,
  replayJournal,
  writeAsRun,
  writeEngineState,
  type AsRunText,
  type Pruned,
} from './as-run';
export { commitEdit, redoEdit, undoEdit, undoState, type EditDone, type EditFailure } from './edits';
export { StoreError, type StoreErrorCode } from './errors';
export { headSeq, readMeta, runningRevision, writeMeta } from './meta';
export { readAsRun, searchAsRun, type AsRunPart } from './as-run-query';
export {
  inTransaction,
  setAside,
  showState,
  openAsRun,
  openAsRunForReading,
  openShow,
  openShowForReading,
  type AsRunDb,
  type ShowState,
  type Opened,
  type ShowDb,
} from './open';
export {
  allRecords,
  changesSince,
  contentHash,
  getRecord,
  headManifest,
  putRecord,
  recordsOfKind,
  removeRecord,
  toRecord,
} from './records';
export {
  driversInService,
  leaveService,
  putInService,
  recordsByContent,
  revisionManifest,
  serviceState,
  stepBack,
} from './revisions';
export { driversKey, installDriver, installedDrivers, removeDriver } from './drivers';
export type { Beside } from './beside';
export { devicesWithPassword, readPasswords, unreadablePasswords, sealPassword, writePassword } from './secrets';
export { backups, dailyBackup, readBackup, showFileNow, writeBackup, type Backup } from './backups';
export { openSecrets, sealSecrets } from './sealed';
export { getPicture, picturesOf, putPicture, takePictures } from './pictures';
export { historyFigures, historyLimits, trimHistory } from './history';
export { loadShow, type Loading, type LoadFailure } from './load-show';
