export {
  newestAsRun,
  pruneAsRun,
  readEngineState,
  replayJournal,
  writeAsRun,
  writeEngineState,
  type AsRunText,
} from './as-run';
export { commitEdit, redoEdit, undoEdit, undoState, type EditDone, type EditFailure } from './edits';
export { StoreError } from './errors';
export { headSeq, readMeta, runningRevision, writeMeta } from './meta';
export { readAsRun, searchAsRun } from './as-run-query';
export {
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
export { allRecords, changesSince, contentHash, draftManifest, recordsOfKind, toRecord } from './records';
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
export { devicesWithPassword, readPasswords, unreadablePasswords, sealPassword, writePassword } from './secrets';
export { backups, dailyBackup, readBackup, showFileNow, writeBackup, type Backup } from './backups';
export { openSecrets, sealSecrets } from './sealed';
export { writeLive } from './live';
export { scaledPicture } from './scaled-picture';
export { getPicture, picturesOf, putPicture } from './pictures';
export { runningShow } from './running-show';
export { historyFigures, trimHistory } from './history';
export { loadShow } from './load-show';
export { ReportShelf } from './report-shelf';
