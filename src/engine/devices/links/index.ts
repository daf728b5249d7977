export type { DeviceLink, Lane, LinkAddress } from './link';
export { openLink } from './open-link';
