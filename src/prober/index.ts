export { carryOut } from './orders';
export { serveProber } from './serve';
export { listenForDevices } from './search';
