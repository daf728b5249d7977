export { ReplayPage } from './replay-page';
