export { PacketLimit } from './packet-limit';
