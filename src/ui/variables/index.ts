export { VariablesScreen } from './variables-screen';
