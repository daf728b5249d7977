export { RigScreen } from './rig-screen';
export { ProblemList } from './own-commands';
export { useNetwork } from './use-network';
