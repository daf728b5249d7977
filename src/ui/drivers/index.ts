export { DriversScreen } from './drivers-screen';
