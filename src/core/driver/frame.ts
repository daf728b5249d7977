import {
  arrivedFromHttp,
  arrivedFromMqtt,
  decodeViscaPacket,
  httpParts,
  isCut,
  makeExchange,
  readViscaReply,
  type Arrived,
} from '../wire';
import type { DriverDocument } from './schema';

/** What came in one frame, read by itself, without what was said before. A pause may have ended it. */
export function arrivedIn({ framing, link }: DriverDocument, bytes: Uint8Array): readonly Arrived[] {
  if (framing.kind === 'http') return [arrivedFromHttp(framing, httpParts(bytes), 0)];
  if (framing.kind === 'mqtt') return [arrivedFromMqtt(bytes)];
  if (!isCut(framing)) return [];
  const exchange = makeExchange(framing, link.kind !== 'udp');
  return [...exchange.read(bytes), ...(exchange.flush?.() ?? [])];
}

/** What a camera answers over VISCA; its exchange gives this only to the command that waits. */
export function viscaReplyIn(
  { framing }: DriverDocument,
  bytes: Uint8Array,
): ReturnType<typeof readViscaReply> | undefined {
  if (framing.kind !== 'visca') return undefined;
  const packet = framing.header ? decodeViscaPacket(bytes) : undefined;
  return readViscaReply(packet?.ok ? packet.value.payload : bytes);
}
