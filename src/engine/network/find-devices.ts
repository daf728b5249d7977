import { fitsHeard, probeOf, whatItSays, type CompiledDriver, type DriverDocument } from '../../core/driver';
import { looksLike, type Announced, type Hit, type Probe } from '../../core/diagnosis';
import type { FindLine, FoundDevice, Sureness } from '../../core/live';
import { addressesIn, familyOf, isLoopbackAddress } from '../../core/net';
import type { Scalar } from '../../core/result';
import type { LinkWord } from '../../core/session';
import type { DeviceRecord } from '../../core/show';
import { fromHex } from '../../core/wire';
import type { Prober } from './prober-client';
import { TestSession } from './test-session';

export interface Search {
  readonly range: string;
  /** TCP ports that are tried besides those of the drivers. */
  readonly ports: readonly number[];
  readonly drivers: readonly CompiledDriver[];
  /** What an open port that no driver knows can be added as. */
  readonly generic: readonly CompiledDriver[];
  readonly rig: readonly {
    readonly record: DeviceRecord;
    readonly document: DriverDocument | undefined;
    readonly link: LinkWord;
    /** The hardware address at which it was last reached. */
    readonly mac: string | undefined;
    readonly last: (key: string) => Scalar | undefined;
  }[];
}

const tryTimeoutMs = 500;
const askTimeoutMs = 2500;
const announcedMs = 6000;
/** How many of the devices found are identified at a time. */
const asksAtOnce = 4;

/** Looks for devices on a network, telling what is found as it is found. Ends with `done`, or with why it was refused. */
export async function findDevices(
  search: Search,
  prober: Prober,
  tell: (line: FindLine) => void,
  signal: AbortSignal,
): Promise<void> {
  const addresses = addressesIn(search.range);
  if (!addresses.ok) return tell({ is: 'refused', message: addresses.error });
  const probes = probesOf(search);
  const waiting: Hit[] = [];
  let searching = true;
  let wake: () => void = () => undefined;
  const ask = async () => {
    for (;;) {
      const hit = waiting.shift();
      if (hit) {
        tell({ is: 'found', found: await identify(hit, search, signal) });
        continue;
      }
      if (!searching || signal.aborted) return;
      await new Promise<void>((resolve) => {
        const before = wake;
        wake = () => (before(), resolve());
      });
    }
  };
  const asking = Array.from({ length: asksAtOnce }, ask);
  // A search of this computer alone stays on it.
  const isHere = addresses.value.every((address) => isLoopbackAddress(address));
  const announced = isHere
    ? undefined
    : prober
        .follow(
          { do: 'announced', forMs: announcedMs },
          (each) => tell({ is: 'found', found: foundByItself(each, search) }),
          signal,
        )
        // A search without it is still a search.
        .catch(() => undefined);
  try {
    await prober.follow(
      { do: 'search', addresses: [...addresses.value], probes: [...probes], timeoutMs: tryTimeoutMs },
      ({ tried, of, hit }) => {
        tell({ is: 'progress', tried, of });
        if (hit) waiting.push(hit);
        wake();
      },
      signal,
    );
  } finally {
    searching = false;
    wake();
  }
  await Promise.all([...asking, announced]);
  tell({ is: 'done' });
}

/** Each port once; what is said there by datagrams is the first driver's question. */
function probesOf({ drivers, rig, ports }: Search): Probe[] {
  const probes = new Map<string, Probe>();
  const put = (probe: Probe) => {
    const key = `${probe.kind} ${probe.port}`;
    if (!probes.has(key)) probes.set(key, probe);
  };
  for (const port of ports) put({ kind: 'tcp', port, say: '' });
  const known = drivers.flatMap((driver) => {
    const probe = probeOf(driver);
    return probe ? [{ id: driver.document.id, probe }] : [];
  });
  for (const { probe } of known) put(probe);
  // A port that this rig uses for a kind of device is likely to be used again.
  for (const { record } of rig) {
    const probe = known.find(({ id }) => id === record.data.driver)?.probe;
    if (probe && !record.data.through) put({ ...probe, port: record.data.port });
  }
  return [...probes.values()].slice(0, 40 + ports.length);
}

async function identify(hit: Hit, search: Search, signal: AbortSignal): Promise<FoundDevice> {
  const { address, kind, port } = hit;
  const bytes = fromHex(hit.heard);
  const heard = bytes.ok ? bytes.value : new Uint8Array();
  const { mac } = hit;
  const base = { address, kind, port, ...(mac === undefined ? {} : { mac }) };
  // A device behind a gateway answers at the gateway's address, on the port that is its line.
  const own = search.rig.find(({ record }) => hostOf(record, search.rig) === address && record.data.port === port);
  const alike = search.drivers.filter(({ document }) => (document.link.kind === 'udp') === (kind === 'udp'));
  if (own?.document && (own.link === 'up' || own.link === 'silent')) {
    const { id, title, role } = own.document;
    return {
      ...base,
      ...whatItSays(own.document, own.last),
      drivers: [{ id, title, role, sure: 'answered' }],
      inRig: own.record.data.tag,
    };
  }
  const greeted = alike.filter((driver) => fitsHeard(driver, heard));
  const usual = alike.filter(
    ({ document }) =>
      !greeted.some((each) => each.document.id === document.id) &&
      heard.length === 0 &&
      (document.link.port === port ||
        search.rig.some(({ record, link }) => {
          const { driver, port: theirs, through } = record.data;
          // What is missing elsewhere may have moved here.
          return driver === document.id && (theirs === port || (!through && isLost(link)));
        })),
  );
  const tried = await Promise.all(
    [...greeted, ...usual].slice(0, 6).map((driver) => askOne(driver, hit, signal, greeted.includes(driver))),
  );
  const best = tried.find(({ sure }) => sure === 'answered') ?? tried[0];
  const drivers = tried
    .sort((a, b) => surenessOrder.indexOf(a.sure) - surenessOrder.indexOf(b.sure))
    .map(({ driver: { document }, sure }) => ({ id: document.id, title: document.title, role: document.role, sure }));
  const like = drivers.length === 0 ? looksLike(heard) : undefined;
  if (drivers.length === 0 && kind === 'tcp') drivers.push(...genericFor({ port, kind }, search));
  const says = best?.says ?? {};
  // What answers at the place of another may be one that has moved there.
  const isOwn = own !== undefined && (best?.driver.document.id ?? own.record.data.driver) === own.record.data.driver;
  const moved =
    !isOwn && best && best.sure !== 'port only'
      ? movedTo(best.driver.document.id, { ...says, mac }, search)
      : movedByHardware(isOwn ? undefined : mac, search);
  const inRig = isOwn ? { inRig: own.record.data.tag } : {};
  return { ...base, ...says, drivers, ...inRig, ...(like ? { like } : {}), ...(moved ? { moved } : {}) };
}

/** Ports at which MQTT brokers are usual: plain, and over TLS. */
const brokerPorts: ReadonlySet<number> = new Set([1883, 8883]);
/** Ports at which web servers are usual. */
const webPorts: ReadonlySet<number> = new Set([80, 443, 8000, 8008, 8080, 8081, 8443, 8888]);

/** Returns the generic driver for a port that no other driver knows. */
function genericFor(
  { port, kind, service = '' }: { readonly port: number; readonly kind: 'tcp' | 'udp'; readonly service?: string },
  { generic }: Search,
) {
  const wanted = genericId(port, kind, service);
  return generic
    .filter(({ document }) => document.id === wanted)
    .map(({ document: { id, title, role } }) => ({ id, title, role, sure: 'port only' as const }));
}

function genericId(port: number, kind: 'tcp' | 'udp', service: string): GenericId {
  if (kind === 'udp') return service.startsWith('_osc.') ? 'generic-osc' : 'generic-text-udp';
  if (brokerPorts.has(port) || service.startsWith('_mqtt.')) return 'generic-mqtt';
  return webPorts.has(port) || /^_https?\./.test(service) || /discovery/i.test(service)
    ? 'generic-http'
    : 'generic-text-tcp';
}

/** The generic drivers that a search can offer. */
export const genericIds = [
  'generic-text-tcp',
  'generic-http',
  'generic-text-udp',
  'generic-osc',
  'generic-mqtt',
] as const;
type GenericId = (typeof genericIds)[number];

/** Makes a search result from an announcement. Nobody has spoken to the device yet. */
function foundByItself({ name, service, transport, port, addresses, mac }: Announced, search: Search): FoundDevice {
  const address = addresses.find((each) => familyOf(each) === 4) ?? addresses[0] ?? '';
  // Another service of a device that is in the rig is no new device.
  const inRig = search.rig.find(({ record: { data } }) => data.host !== '' && addresses.includes(data.host))?.record
    .data.tag;
  const byName = search.drivers.filter(({ document }) => document.announced.some((each) => service.startsWith(each)));
  const byPort = search.drivers.filter(
    ({ document: { link } }) => link.port === port && (link.kind === 'udp') === (transport === 'udp'),
  );
  const fitting = byName.length > 0 ? byName : byPort;
  const known = fitting.map(({ document: { id, title, role } }) => ({ id, title, role, sure: 'port only' as const }));
  return {
    address,
    port,
    kind: transport,
    drivers: [...known, ...genericFor({ port, kind: transport, service }, search)],
    announced: { name, service },
    ...(mac === undefined ? {} : { mac }),
    ...(inRig === undefined ? {} : { inRig }),
  };
}

/** Where a device is reached: behind a gateway at the gateway's address. */
function hostOf({ data }: DeviceRecord, rig: Search['rig']): string | undefined {
  if (!data.through) return data.host;
  const { device } = data.through;
  return rig.find(({ record }) => record.id === device)?.record.data.host;
}

const isLost = (link: LinkWord): boolean => !['up', 'silent', 'one-way', 'not checked', 'off'].includes(link);

const surenessOrder: readonly Sureness[] = ['answered', 'greeted', 'port only'];

/** Calls it once, without name and password, to hear what it is. */
async function askOne(driver: CompiledDriver, { address, port }: Hit, signal: AbortSignal, greeted: boolean) {
  const session = new TestSession({ driver, host: address, port, user: '', password: '' });
  const link = await session.call(askTimeoutMs, signal);
  const fits = session.evidence.understood || ['up', 'occupied', 'locked out'].includes(link.word);
  const says = whatItSays(driver.document, (key) => session.fresh(key));
  session.end();
  const sure: Sureness = fits ? 'answered' : greeted ? 'greeted' : 'port only';
  return { driver, sure, says };
}

/** The device of the rig that is missing where it was and is of the same driver. The serial number decides where it is known. */
function movedTo(
  driver: string,
  says: { readonly serial?: string; readonly mac: string | undefined },
  { rig }: Search,
): FoundDevice['moved'] {
  const lost = rig.filter(
    ({ record, link }) => record.data.driver === driver && record.data.enabled && !record.data.through && isLost(link),
  );
  const serialOf = ({ document, last }: (typeof rig)[number]) => last(document?.identity.serial ?? '');
  const same =
    (says.serial === undefined ? undefined : lost.find((each) => serialOf(each) === says.serial)) ??
    (says.mac === undefined ? undefined : lost.find((each) => each.mac === says.mac));
  const other = lost.filter((each) => says.serial === undefined || serialOf(each) === undefined);
  // Two that are missing cannot be told apart without a number.
  const found = same ?? (other.length === 1 ? other[0] : undefined);
  return found && movedFrom(found, same !== undefined);
}

/** Recognises a lost device by its hardware address, although no driver was answered: it may be starting. */
function movedByHardware(mac: string | undefined, { rig }: Search): FoundDevice['moved'] {
  const found = mac === undefined ? undefined : rig.find((each) => each.mac === mac && isLost(each.link));
  return found && movedFrom(found, false);
}

const movedFrom = ({ record: { id, data } }: Search['rig'][number], certain: boolean): FoundDevice['moved'] => ({
  device: id,
  tag: data.tag,
  from: `${data.host}:${data.port}`,
  certain,
});
