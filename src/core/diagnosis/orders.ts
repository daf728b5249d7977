import { z } from 'zod';
import type { ComputerFinding, LookupError, Network, PortAnswer, LocalPortInfo } from './findings';

/** What the engine asks the prober to do. Each order has its answer below; a search answers many times. */

const address = z.string().min(1).max(253);
const portNumber = z.number().int().min(1).max(65_535);
const kind = z.enum(['tcp', 'udp']);
const hex = z.string().regex(/^([0-9a-f]{2}){0,1024}$/i, 'pairs of hexadecimal digits');
const timeoutMs = z.number().int().min(10).max(10_000);

/** A way to find one kind of device: a port, and what is said there by UDP. */
const probeSchema = z.strictObject({ kind, port: portNumber, say: hex.default('') });

export const probeOrderSchema = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('network') }),
  z.strictObject({ do: z.literal('address'), host: z.string().max(253) }),
  z.strictObject({ do: z.literal('route'), address }),
  z.strictObject({
    do: z.literal('reach'),
    address,
    /** Left out: the port is known to be open. */
    port: portNumber.optional(),
    kind,
    timeoutMs,
  }),
  z.strictObject({ do: z.literal('ports'), address, ports: z.array(portNumber).max(100), timeoutMs }),
  z.strictObject({ do: z.literal('listen'), address, port: portNumber, timeoutMs }),
  z.strictObject({
    do: z.literal('search'),
    addresses: z.array(address).max(4096),
    probes: z.array(probeSchema).min(1).max(40),
    timeoutMs,
  }),
  z.strictObject({
    do: z.literal('picture'),
    host: address,
    port: portNumber,
    path: z.string().regex(/^\/\S*$/),
    user: z.string().optional(),
    password: z.string().optional(),
    timeoutMs,
  }),
  z.strictObject({ do: z.literal('neighbours') }),
  z.strictObject({ do: z.literal('serialPorts') }),
  z.strictObject({ do: z.literal('midiPorts') }),
  z.strictObject({ do: z.literal('announced'), forMs: z.number().int().min(100).max(30_000) }),
]);

export type ProbeOrder = z.infer<typeof probeOrderSchema>;
export type Probe = z.infer<typeof probeSchema>;

/** What came of one try of a search. */
export interface Hit {
  readonly address: string;
  readonly kind: 'tcp' | 'udp';
  readonly port: number;
  /** What it said, in hexadecimal digits. */
  readonly heard: string;
  /** Its hardware address, on an own subnet. */
  readonly mac?: string;
}

/** A device that announced itself by multicast DNS (RFC 6762, RFC 6763) or answered a discovery request. */
export interface Announced {
  readonly name: string;
  /** The multicast DNS service, or the name of the other discovery protocol. */
  readonly service: string;
  readonly transport: 'tcp' | 'udp';
  readonly host: string;
  readonly addresses: readonly string[];
  readonly port: number;
  /** The hardware address that the device itself reports. */
  readonly mac?: string;
}

export interface ProbeAnswers {
  readonly network: Network;
  readonly address: { readonly addresses: readonly string[]; readonly error: LookupError | undefined };
  readonly route: { readonly from: string | undefined };
  readonly reach: Pick<ComputerFinding, 'ping' | 'neighbour' | 'mac' | 'port'>;
  readonly ports: { readonly open: readonly number[] };
  readonly listen: { readonly heard: string; readonly answer: PortAnswer };
  readonly search: { readonly tried: number; readonly of: number; readonly hit?: Hit };
  readonly announced: Announced;
  /** All hardware addresses that the system knows of its own subnets. */
  readonly neighbours: { readonly known: readonly { readonly address: string; readonly mac: string }[] };
  readonly serialPorts: { readonly ports: readonly LocalPortInfo[] };
  readonly midiPorts: { readonly ports: readonly LocalPortInfo[] };
  /** In base64; empty with the reason where there is none. */
  readonly picture: {
    readonly type: string;
    readonly bytes: string;
    readonly error?: string;
  };
}
