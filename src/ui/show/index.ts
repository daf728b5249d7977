export { ShowScreen } from './show-screen';
