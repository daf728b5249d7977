import {
  arrivedFromHttp,
  arrivedFromMqtt,
  decodeViscaPacket,
  fromHex,
  httpParts,
  isAcknowledgement,
  makeExchange,
  readViscaReply,
  type Said,
} from '../wire';
import type { CompiledDriver } from './compile';
import { decodeSaid } from './decode';
import { readingText } from './sentence';

/** The most readings of one frame that are named; a list may hold hundreds. */
const mostReadings = 4;

/**
 * What a frame from a device means, in words: the readings that it reports, or that it accepts or refuses a command. It is read by itself,
 * without what was said before; `undefined` where the driver then finds nothing in it.
 *
 * @param hex its bytes, two digits each, secrets masked
 * @param name the command or question that it answers, where that is known
 */
export function frameMeaning(driver: CompiledDriver, hex: string, name: string | undefined): string | undefined {
  const bytes = fromHex(hex);
  if (!bytes.ok) return undefined;
  const own = protocolMeaning(driver, bytes.value);
  if (own !== undefined) return own;
  const replies = saysIn(driver, bytes.value).flatMap((said) => decodeSaid(driver, said, name) ?? []);
  const refusal = replies.find(({ refuses }) => refuses)?.refuses;
  if (refusal) return `Refused: ${refusal.reason}`;
  const readings = replies.flatMap((reply) => reply.readings);
  if (readings.length === 0) return replies.some(({ accepts }) => accepts) ? 'Accepted' : undefined;
  const texts = readings.slice(0, mostReadings).map(({ key, value }) => {
    const { name: title, shown } = readingText(driver.document, key, value);
    return `${title} ${shown}`;
  });
  const more = readings.length - texts.length;
  return `${texts.join(' · ')}${more > 0 ? ` · and ${more} more` : ''}`;
}

/** What the protocol itself says of an answer, whatever the driver makes of it. */
function protocolMeaning({ document: { framing, errors } }: CompiledDriver, bytes: Uint8Array): string | undefined {
  if (framing.kind === 'mqtt' && isAcknowledgement(bytes)) {
    const [, , , , code = 0] = bytes;
    const said = errors[code.toString(16).toUpperCase().padStart(2, '0')];
    return code === 0 ? 'Accepted by the broker' : (said ?? 'Refused by the broker');
  }
  if (framing.kind !== 'visca') return undefined;
  const packet = framing.header ? decodeViscaPacket(bytes) : undefined;
  const reply = readViscaReply(packet?.ok ? packet.value.payload : bytes);
  if (reply.kind === 'ack') return 'Accepted';
  if (reply.kind === 'completion') return 'Done';
  return reply.kind === 'error' ? `Refused: ${errors[reply.code] ?? `error ${reply.code}`}` : undefined;
}

function saysIn({ document: { framing, link } }: CompiledDriver, bytes: Uint8Array): readonly Said[] {
  if (framing.kind === 'http') return arrivedFromHttp(framing, httpParts(bytes), 0).says;
  if (framing.kind === 'mqtt') return arrivedFromMqtt(bytes).says;
  return makeExchange(framing, link.kind === 'tcp')
    .read(bytes)
    .flatMap(({ says }) => says);
}
