export { answerApi, type ApiSource } from './api';
export { Engine, type EngineOptions } from './engine';
export { proberAt, type Prober } from './prober-client';
export { rehearsalsAt, type Rehearsals } from './rehearsal';
export { Gate, isLoopback, panelCookie, sessionCookie, type GateSettings, type Principal, type Refused } from './gate';
export { warmUp } from './warm-up';
