import { groupOfUniverse } from '../wire';
import type { DriverDocument } from './schema';

type Reached = Pick<DriverDocument, 'link' | 'framing'>;

/** The multicast group that follows from the options of a device; `undefined` where an address is typed. */
export const groupOf = ({ link, framing }: Reached): string | undefined =>
  link.kind === 'udp' && link.delivery === 'multicast' && framing.kind === 'sacn'
    ? groupOfUniverse(framing.universe)
    : undefined;

/** True where what is sent goes to many at once, so that no computer at the address can be asked. */
export const goesToMany = ({ link }: Reached): boolean => link.kind === 'udp' && link.delivery !== 'one';

/** What two devices cannot both have: their place, which is a universe of it for levels. `undefined` where many may share it. */
export function placeOf(document: Reached | undefined, host: string, port: number): string | undefined {
  if (document?.link.kind === 'internal') return undefined;
  const transport = document?.link.kind === 'udp' ? 'udp' : 'tcp';
  if (document?.framing.kind === 'sacn') return `${transport} ${host} ${port} ${document.framing.universe}`;
  return document && goesToMany(document) ? undefined : `${transport} ${host} ${port}`;
}
