export type { DeviceLink, LinkAddress } from './link';
export { openLink } from './open-link';
