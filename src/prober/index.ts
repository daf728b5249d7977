export { listenForAnnounced } from './announced';
export { carryOut } from './orders';
export { serveProber } from './serve';
