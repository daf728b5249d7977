export { listenForAnnounced } from './announced';
export { carryOut, maxTriesInFlight } from './orders';
export { serveProber } from './serve';
