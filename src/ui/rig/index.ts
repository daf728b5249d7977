export { RigScreen } from './rig-screen';
export { ProblemList } from './own';
export { useNetwork } from './use-network';
