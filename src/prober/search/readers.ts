import type { Announced } from '../../core/diagnosis';

/** What devices answer when everybody is asked, each by its own protocol. Whatever comes is only looked at as far as it fits. */

type Found = Omit<Announced, 'addresses'> & { readonly addresses?: readonly string[] };

const latin1 = (message: Uint8Array): string => Buffer.from(message).toString('latin1');

/** PJLink Class 2 specification, 4.3: the search of projectors by broadcast, `%2SRCH`, and their acknowledgement with the hardware address. */
export const pjlinkSearch = {
  say: Buffer.from('%2SRCH\r', 'ascii'),
  port: 4352,
  answersToPort: true,
  read: (message: Uint8Array): Found | undefined => {
    const mac = /^%2ACKN=([0-9a-f]{2}(?::[0-9a-f]{2}){5})\r?$/i.exec(latin1(message))?.[1];
    return mac === undefined
      ? undefined
      : {
          name: `Screen ${mac.slice(-8).toUpperCase()}`,
          service: 'PJLink',
          transport: 'tcp',
          host: '',
          port: 4352,
          mac,
        };
  },
};

/**
 * The network inquiry of VISCA over IP: `ENQ:network` between 02 and 03, answered by fields `NAME:…`, `MODEL:…`, `MAC:…`, each ended by FF. It has a
 * port of its own; the camera is spoken to at 52381.
 */
export const viscaInquiry = {
  say: Uint8Array.of(0x02, ...Buffer.from('ENQ:network', 'ascii'), 0xff, 0x03),
  port: 52380,
  answersToPort: true,
  read: (message: Uint8Array): Found | undefined => {
    if (message[0] !== 0x02 || message.at(-1) !== 0x03 || message.length > 1000) return undefined;
    const fields = new Map(
      latin1(message.subarray(1, -1))
        .split('\xff')
        .flatMap((field) => {
          const at = field.indexOf(':');
          return at > 0 ? [[field.slice(0, at), field.slice(at + 1).trim()] as const] : [];
        }),
    );
    const mac = fields.get('MAC');
    // The question itself comes back by broadcast.
    if (mac === undefined) return undefined;
    const name = fields.get('NAME') || fields.get('MODEL') || 'Camera';
    const known = { name, service: 'VISCA over IP', transport: 'udp', host: '', port: 52381 } as const;
    const hardware = mac.replaceAll('-', ':').toLowerCase();
    return { ...known, ...(/^([0-9a-f]{2}:){5}[0-9a-f]{2}$/.test(hardware) ? { mac: hardware } : {}) };
  },
};

const probeXml = (id: string): string =>
  `<?xml version="1.0" encoding="UTF-8"?><e:Envelope xmlns:e="http://www.w3.org/2003/05/soap-envelope" xmlns:w="http://schemas.xmlsoap.org/ws/2004/08/addressing" xmlns:d="http://schemas.xmlsoap.org/ws/2005/04/discovery"><e:Header><w:MessageID>uuid:${id}</w:MessageID><w:To>urn:schemas-xmlsoap-org:ws:2005:04:discovery</w:To><w:Action>http://schemas.xmlsoap.org/ws/2005/04/discovery/Probe</w:Action></e:Header><e:Body><d:Probe/></e:Body></e:Envelope>`;

/** WS-Discovery (OASIS 1.1, and the draft of 2005 that devices speak), section 5: a Probe to the group, answered by ProbeMatches. */
export const wsDiscovery = (id: string) => ({
  say: Buffer.from(probeXml(id), 'utf8'),
  group: '239.255.255.250',
  port: 3702,
  read: (message: Uint8Array): Found | undefined => {
    // Only these few values are wanted, and no document of a stranger is given to an XML parser for them.
    const text = Buffer.from(message.subarray(0, 20_000)).toString('utf8');
    if (!/ProbeMatch/.test(text)) return undefined;
    const url = /<(?:\w+:)?XAddrs>\s*([^<\s]+)/.exec(text)?.[1];
    const place = /^(https?):\/\/(?:\[([^\]]+)\]|([^/:]+))(?::(\d{1,5}))?/.exec(url ?? '');
    if (!place) return undefined;
    const [, scheme, six, four = '', port] = place;
    const scope = (kind: string) => {
      const found = new RegExp(`onvif://www\\.onvif\\.org/${kind}/([^\\s<]+)`).exec(text)?.[1];
      return found === undefined ? undefined : decoded(found);
    };
    const name = [scope('name'), scope('hardware')].filter(Boolean).join(' ');
    const isCamera = /NetworkVideoTransmitter|onvif/i.test(text);
    return {
      name: name || 'Network device',
      service: isCamera ? 'ONVIF (WS-Discovery)' : 'WS-Discovery',
      transport: 'tcp',
      host: '',
      port: port === undefined ? (scheme === 'https' ? 443 : 80) : Number(port),
      addresses: [six ?? four],
    };
  },
});

function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    // Not every device encodes as it should; its name is shown as it came.
    return text;
  }
}
