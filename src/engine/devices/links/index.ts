export type { DeviceLink, LinkAddress, LinkEvents, Written } from './link';
export { openLink } from './open-link';
