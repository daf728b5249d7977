import visionSwitcher from './vision-switcher.json';

/** The driver documents that ship. They are the same kind of data as any other and are checked when they are loaded. */
export const shippedDrivers: readonly unknown[] = [visionSwitcher];
