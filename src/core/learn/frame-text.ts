import { checkWidth, isCut, makeExchange, type Framing } from '../wire';
import type { DriverDocument } from '../driver';
import type { FrameText } from './values';

/** Whether the frames of a framing are looked at as text or as hexadecimal digits; `undefined` for those that are neither. */
export function frameTextOf(framing: Framing): FrameText | undefined {
  switch (framing.kind) {
    case 'lines':
      return 'text';
    case 'fixed':
    case 'unframed':
      return 'bytes';
    case 'terminated':
    case 'silence':
      return framing.as;
    case 'prefixed':
      return framing.as ?? 'bytes';
    case 'message':
      return framing.as === 'json' ? undefined : framing.as;
    default:
      return undefined;
  }
}

/** What the driver would look at in this frame; `undefined` where it is no frame of the framing. */
export function saidText(
  { framing, link }: Pick<DriverDocument, 'framing' | 'link'>,
  frame: Uint8Array,
): string | undefined {
  if (!isCut(framing)) return undefined;
  const exchange = makeExchange(framing, link.kind !== 'udp');
  const arrived = [...exchange.read(frame), ...(exchange.flush?.() ?? [])];
  const [only] = arrived;
  const said = arrived.length === 1 && only?.fault === undefined ? only?.says[0] : undefined;
  return said?.kind === 'text' ? said.text : undefined;
}

/** The bytes of each frame that hold no value: up to the end of its length field, and from its checksum on. */
export function fixedBytes(framing: Framing): { readonly before: number; readonly behind: number } {
  const check = 'check' in framing ? framing.check : undefined;
  const width = check ? checkWidth(check) : 0;
  const before = framing.kind === 'prefixed' ? framing.header + framing.width : 0;
  const end = 'end' in framing && framing.end ? framing.end.replace(/ /g, '').length / 2 : 0;
  const terminator = framing.kind === 'terminated' ? framing.terminator.replace(/ /g, '').length / 2 : 0;
  return { before, behind: width + end + terminator };
}
