export { TakeHere } from './take-here';
export { SnapshotsScreen } from './snapshots-screen';
