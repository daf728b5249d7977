import { isCut, makeExchange, toHex, type Arrived, type Said } from '../wire';
import type { CompiledDriver } from './compile';
import type { OwnMessage } from './compile-own';
import { decodeSaid } from './decode';
import { encodeOwn } from './encode';

/** How a kind of device is looked for on a network: its usual port, and by datagrams a question that changes nothing. */
interface DriverProbe {
  readonly kind: 'tcp' | 'udp';
  readonly port: number;
  /** In hexadecimal digits; empty where a connection alone is tried. */
  readonly say: string;
}

/** `undefined` for a driver whose devices cannot answer. */
export function probeOf(driver: CompiledDriver): DriverProbe | undefined {
  const { link, framing } = driver.document;
  if (link.direction === 'out') return undefined;
  if (link.kind === 'serial' || link.kind === 'midi' || link.kind === 'internal') return undefined;
  if (link.kind !== 'udp' || !isCut(framing)) return { kind: 'tcp', port: link.port, say: '' };
  const own: OwnMessage | undefined = driver.keepAlive ?? driver.sync[0];
  const message = own && encodeOwn(driver, own, { user: '', password: '' }, 1);
  const bytes = message?.ok ? makeExchange(framing, false).write(message.value.out, 1) : undefined;
  return bytes?.ok ? { kind: 'udp', port: link.port, say: toHex(bytes.value) } : undefined;
}

/** Whether what was heard is what a device of this driver says first: its greeting, or an answer to the probe. */
export function fitsHeard(driver: CompiledDriver, heard: Uint8Array): boolean {
  const { link, framing } = driver.document;
  if (heard.length === 0 || !isCut(framing)) return false;
  const exchange = makeExchange(framing, link.kind === 'tcp');
  // The exchange knows of the question only when it has written it.
  const probe = probeOf(driver);
  const own = driver.keepAlive ?? driver.sync[0];
  const message = probe?.kind === 'udp' && own && encodeOwn(driver, own, { user: '', password: '' }, 1);
  if (message && message.ok) exchange.write(message.value.out, 1);
  const frames: readonly Arrived[] = exchange.read(heard);
  const [first] = driver.greeting;
  if (first && 'expect' in first) {
    const [said] = frames.flatMap(({ says }): readonly Said[] => says);
    return said !== undefined && first.expect.matcher(said.text).find();
  }
  return frames.some(
    (frame) =>
      frame.fault === undefined &&
      (frame.answer !== undefined || frame.says.some((said) => decodeSaid(driver, said, own?.ask) !== undefined)),
  );
}
