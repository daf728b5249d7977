export { DeskProviders, useDesk, useShow, type DeskActions } from './desk';
