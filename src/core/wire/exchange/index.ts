export { EventStreamReader } from './events';
export type { Answer, Arrived, Exchange, HttpOutgoing, MqttOutgoing, Outgoing, Said } from './exchange';
export { isCut, type CutFraming, type Framing } from './framing';
export { arrivedFromEvent, arrivedFromHttp, httpParts } from './http';
export { makeExchange } from './make';
export { acknowledgementBytes, arrivedFromMqtt, isAcknowledgement, publishedBytes } from './mqtt';
