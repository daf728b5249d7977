export { HealthScreen } from './health-screen';
