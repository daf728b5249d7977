export { AsRunScreen } from './as-run-screen';
