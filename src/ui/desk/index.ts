export { documentOfRecord, driverOfDevice } from './driver-of-device';
export { useShow } from './show-now';
export { DeskProviders, useDesk, type BackupEntry, type DeskActions, type ListenView } from './desk';
