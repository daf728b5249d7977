export { listenForAnnounced } from './announced';
export { carryOut, maxTriesInFlight } from './orders';
export { readBody, serveProber } from './serve';
