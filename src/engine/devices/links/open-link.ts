import type { DriverDocument } from '../../../core/driver';
import { makeExchange } from '../../../core/wire';
import { BriefTcpLink } from './brief-tcp-link';
import { HttpLink } from './http-link';
import { InternalLink } from './internal-link';
import type { DeviceLink, LinkAddress, LinkEvents } from './link';
import { MidiLink } from './midi-link';
import { MqttLink } from './mqtt-link';
import { SacnLink } from './sacn-link';
import { SerialLink } from './serial-link';
import { TcpLink } from './tcp-link';
import { UdpLink } from './udp-link';
import { WebSocketLink } from './websocket-link';

/** Line settings for a driver without its own. */
const usualLine = { baudRate: 9600, format: '8N1', flow: 'none' } as const;

/** Dials a device the way its driver says. */
export function openLink(document: DriverDocument, address: LinkAddress, events: LinkEvents): DeviceLink {
  const { link, framing } = document;
  if (framing.kind === 'http') return new HttpLink(address, document, framing, events);
  if (framing.kind === 'sacn') return new SacnLink(address, link, framing, events);
  if (framing.kind === 'mqtt') return new MqttLink(address, link, framing.maxFrameBytes, events);
  switch (link.kind) {
    case 'udp':
      return new UdpLink(address, link, makeExchange(framing, false), events);
    case 'midi':
      return new MidiLink(address, makeExchange(framing, true), events);
    case 'internal':
      return new InternalLink(address, makeExchange(framing, true), events);
    case 'serial':
      return new SerialLink(address, link.serial ?? usualLine, makeExchange(framing, true), events);
    case 'websocket':
      return new WebSocketLink(address, document, makeExchange(framing, false), events);
    default:
      if (link.perMessage) return new BriefTcpLink(address, link, framing, document.answers !== 'none', events);
      return new TcpLink(address, link, makeExchange(framing, true), events, () => makeExchange(framing, false));
  }
}
