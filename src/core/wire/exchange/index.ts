export { EventStreamReader } from './events';
export type { Answer, Arrived, Exchange, HttpOutgoing, Outgoing, Said } from './exchange';
export type { Framing, FramingKind } from './framing';
export { arrivedFromEvent, arrivedFromHttp, type HttpArrived } from './http';
export { makeExchange } from './make';
