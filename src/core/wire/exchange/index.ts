export { EventStreamReader } from './events';
export type { Answer, Arrived, Exchange, HttpOutgoing, Outgoing, Said } from './exchange';
export type { Framing } from './framing';
export { arrivedFromEvent, arrivedFromHttp } from './http';
export { makeExchange } from './make';
