export type { DeviceLink, InternalEnd, Lane, LinkAddress } from './link';
export { openLink } from './open-link';
