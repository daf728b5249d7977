export { RigScreen } from './rig-screen';
