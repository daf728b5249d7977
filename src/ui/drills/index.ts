export { DrillsScreen } from './drills-screen';
