export { listenForAnnounced } from './announced';
export { carryOut } from './orders';
export { readBody, serveProber } from './serve';
