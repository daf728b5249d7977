export { KitScreen } from './kit-screen';
