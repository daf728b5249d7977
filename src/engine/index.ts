export { answerApi, type ApiSource } from './door/api';
export { Engine, type EngineOptions } from './engine';
export { proberAt, type Prober } from './network/prober-client';
export { rehearsalsAt, type Rehearsals } from './aim/rehearsal';
export {
  Gate,
  isLoopback,
  panelCookie,
  sessionCookie,
  type GateSettings,
  type Principal,
  type Refused,
} from './door/gate';
export { warmUp } from './show/warm-up';
