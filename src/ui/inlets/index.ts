export { InletsScreen } from './inlets-screen';
