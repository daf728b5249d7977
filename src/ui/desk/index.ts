export { driverOfDevice } from './driver-of-device';
export { DeskProviders, useDesk, useShow, type BackupEntry, type DeskActions, type ListenView } from './desk';
