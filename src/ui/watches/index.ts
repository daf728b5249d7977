export { WatchesScreen } from './watches-screen';
