export { MacrosScreen } from './macros-screen';
