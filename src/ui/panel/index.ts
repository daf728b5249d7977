export { PanelScreen } from './panel-screen';
