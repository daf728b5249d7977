export { apiOf } from './door/api';
export { Engine } from './engine';
export { pictureRelayAt, type PictureRelay } from './network/picture-relay';
export { proberAt, type Prober } from './network/prober-client';
export { checkerAt } from './line-check/checker';
export { rehearsalsAt } from './aim/rehearsal';
export {
  Gate,
  isLoopback,
  panelCookie,
  sessionCookie,
  type GateSettings,
  type Principal,
  type Refused,
} from './door/gate';
export type { WriteLive } from './show/write-live';
export type { SentCommand } from './presses/presses';
export { warmUp, type WarmStart } from './show/warm-up';
