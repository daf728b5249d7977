export { answerApi, type ApiSource } from './api';
export { Engine, type EngineOptions } from './engine';
export { Gate, isLoopback, sessionCookie, type GateSettings, type Principal } from './gate';
