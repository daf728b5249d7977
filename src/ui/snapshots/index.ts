export { SnapshotsScreen } from './snapshots-screen';
export { TakeDialog } from './take-dialog';
