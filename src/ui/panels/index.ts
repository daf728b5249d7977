export { PanelsScreen } from './panels-screen';
