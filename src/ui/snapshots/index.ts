export { SnapshotsScreen } from './snapshots-screen';
