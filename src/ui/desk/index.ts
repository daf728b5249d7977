export { compiledOf, documentOfRecord, driverOfDevice } from './driver-of-device';
export { useShow } from './show-now';
export { DeskProviders, useDesk, type ListenView } from './desk';
