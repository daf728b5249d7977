import { fromHex, isAcknowledgement } from '../wire';
import type { CompiledDriver } from './compile';
import { decodeSaid } from './decode';
import { arrivedIn, viscaReplyIn } from './frame';
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
  const says = arrivedIn(driver.document, bytes.value).flatMap((arrived) => arrived.says);
  const replies = says.flatMap((said) => decodeSaid(driver, said, name) ?? []);
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
function protocolMeaning({ document }: CompiledDriver, bytes: Uint8Array): string | undefined {
  const { framing, errors } = document;
  if (framing.kind === 'mqtt' && isAcknowledgement(bytes)) {
    const [, , , , code = 0] = bytes;
    const said = errors[code.toString(16).toUpperCase().padStart(2, '0')];
    return code === 0 ? 'Accepted by the broker' : (said ?? 'Refused by the broker');
  }
  const reply = viscaReplyIn(document, bytes);
  if (reply?.kind === 'ack') return 'Accepted';
  if (reply?.kind === 'completion') return 'Done';
  return reply?.kind === 'error' ? `Refused: ${errors[reply.code] ?? `error ${reply.code}`}` : undefined;
}
