import multicastDns from 'multicast-dns';
import { networkInterfaces } from 'node:os';
import type { Announced } from '../core/diagnosis';

const allServices = '_services._dns-sd._udp.local';
/** The most services that are asked about; a network that announces more is not searched this way. */
const maxServices = 200;

type Message = multicastDns.ResponsePacket;
type Records = Message['answers'];

/**
 * Listens for what announces itself by multicast DNS (RFC 6762) on every network of this computer, and asks for it (service
 * enumeration, RFC 6763 section 9). Devices outside the own address range are heard too, as long as they are on the same wire.
 */
export async function listenForAnnounced(
  forMs: number,
  onFound: (found: Announced) => void,
  signal?: AbortSignal,
): Promise<void> {
  const own = Object.values(networkInterfaces())
    .flatMap((list) => list ?? [])
    .filter(({ family, internal }) => family === 'IPv4' && !internal)
    .map(({ address }) => address);
  // Without a network of its own the question would have nowhere to go.
  // Bound to an address of its own, a socket would not hear what is sent to the group.
  const sockets = own.map((address) =>
    multicastDns({ interface: address, bind: '0.0.0.0', reuseAddr: true, loopback: true }),
  );
  const book = new ServiceBook(onFound, (name, type) => {
    for (const socket of sockets) socket.query({ questions: [{ name, type }] });
  });
  for (const socket of sockets) {
    socket.on('error', () => undefined);
    socket.on('warning', () => undefined);
    socket.on('response', (message) => book.hear([...message.answers, ...message.additionals]));
  }
  const ask = () => book.askFor(allServices, 'PTR');
  ask();
  const again = setInterval(ask, 1000);
  await new Promise<void>((resolve) => {
    const timer = setTimeout(resolve, forMs);
    signal?.addEventListener('abort', () => (clearTimeout(timer), resolve()), { once: true });
    if (signal?.aborted) resolve();
  });
  clearInterval(again);
  for (const socket of sockets) socket.destroy();
}

/** Puts together what comes in pieces: service types, instances, their host and port, and the host's addresses. */
export class ServiceBook {
  private readonly asked = new Set<string>();
  private readonly instances = new Map<string, { readonly service: string; host?: string; port?: number }>();
  private readonly addresses = new Map<string, Set<string>>();
  private readonly told = new Set<string>();

  constructor(
    private readonly onFound: (found: Announced) => void,
    private readonly ask: (name: string, type: 'PTR' | 'SRV' | 'A' | 'AAAA') => void,
  ) {}

  askFor(name: string, type: 'PTR' | 'SRV' | 'A'): void {
    if (this.asked.size < maxServices) this.ask(name, type);
  }

  hear(records: Records): void {
    for (const record of records) {
      if (record.type === 'PTR') this.onPointer(record.name, record.data);
      else if (record.type === 'SRV') {
        const { target, port } = record.data;
        const instance = this.instances.get(record.name) ?? { service: serviceOf(record.name) };
        this.instances.set(record.name, { ...instance, host: target, port });
        if (!this.addresses.has(target)) this.once(target, 'A');
      } else if (record.type === 'A' || record.type === 'AAAA') {
        const known = this.addresses.get(record.name) ?? new Set();
        this.addresses.set(record.name, known.add(record.data));
      }
    }
    this.tell();
  }

  private onPointer(name: string, target: string): void {
    if (name === allServices) return this.once(target, 'PTR');
    if (!this.instances.has(target)) this.instances.set(target, { service: name });
    this.once(target, 'SRV');
  }

  private once(name: string, type: 'PTR' | 'SRV' | 'A'): void {
    const key = `${type} ${name}`;
    if (this.asked.has(key) || this.asked.size >= maxServices) return;
    this.asked.add(key);
    this.ask(name, type);
  }

  private tell(): void {
    for (const [name, { service, host, port }] of this.instances) {
      const addresses = host === undefined ? undefined : this.addresses.get(host);
      if (host === undefined || port === undefined || !addresses || this.told.has(name)) continue;
      this.told.add(name);
      const label = name.endsWith(`.${service}`) ? name.slice(0, -service.length - 1) : name;
      const transport = service.includes('._udp') ? 'udp' : 'tcp';
      this.onFound({ name: label, service, transport, host, addresses: [...addresses], port });
    }
  }
}

const serviceOf = (instance: string): string => instance.slice(instance.indexOf('._') + 1);
