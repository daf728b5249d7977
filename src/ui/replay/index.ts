export { ReplayScreen } from './replay-screen';
