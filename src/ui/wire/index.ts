export { WireScreen } from './wire-screen';
