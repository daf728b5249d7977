export { driverOfDevice } from './driver-of-device';
export { DeskProviders, useDesk, useShow, type DeskActions } from './desk';
