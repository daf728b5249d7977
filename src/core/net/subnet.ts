import ipaddr from 'ipaddr.js';
import { fail, ok, type Result } from '../result';

/** An IP network, such as 10.0.0.0/24, by its first address and the length of its prefix. */
export interface Subnet {
  readonly family: 4 | 6;
  readonly bytes: readonly number[];
  readonly prefix: number;
}

/** How many addresses a search may try at the most: a /20. */
const maxSweepAddresses = 4096;

const parse = (text: string) => {
  const bare = text.split('%')[0] ?? '';
  return ipaddr.isValid(bare) ? ipaddr.process(bare) : undefined;
};

/** 4 or 6 for an IP address, `undefined` for a host name. */
export function familyOf(host: string): 4 | 6 | undefined {
  const address = parse(host);
  return address && (address.kind() === 'ipv4' ? 4 : 6);
}

/** The subnet around an address: `10.0.0.5/24` or an address and its prefix length. `undefined` when it is none. */
export function subnetOf(address: string, prefix: number): Subnet | undefined {
  const parsed = parse(address);
  if (!parsed) return undefined;
  const bytes = parsed.toByteArray();
  if (!Number.isInteger(prefix) || prefix < 0 || prefix > bytes.length * 8) return undefined;
  return { family: bytes.length === 4 ? 4 : 6, bytes: masked(bytes, prefix), prefix };
}

const masked = (bytes: readonly number[], prefix: number): number[] =>
  bytes.map((byte, n) => byte & (0xff << Math.max(0, 8 - Math.max(0, prefix - n * 8))) & 0xff);

export function contains(subnet: Subnet, host: string): boolean {
  const bytes = parse(host)?.toByteArray();
  if (bytes?.length !== subnet.bytes.length) return false;
  return masked(bytes, subnet.prefix).every((byte, n) => byte === subnet.bytes[n]);
}

/** `10.0.0.0/24` */
export const subnetText = ({ bytes, prefix }: Subnet): string =>
  `${ipaddr.fromByteArray([...bytes]).toString()}/${prefix}`;

/** True for the first address of an IPv4 subnet, which names the network itself. Networks of one or two addresses have none (RFC 3021). */
export const isNetworkAddress = (subnet: Subnet, host: string): boolean =>
  subnet.family === 4 && subnet.prefix < 31 && number(host) === numberOf(subnet.bytes);

/** True for the last address of an IPv4 subnet, which means everybody on it (RFC 919). */
export const isBroadcastAddress = (subnet: Subnet, host: string): boolean =>
  subnet.family === 4 && subnet.prefix < 31 && number(host) === numberOf(subnet.bytes) + size(subnet) - 1;

const numberOf = (bytes: readonly number[]): number => bytes.reduce((all, byte) => all * 256 + byte, 0);
const number = (host: string): number | undefined => {
  const bytes = parse(host)?.toByteArray();
  return bytes?.length === 4 ? numberOf(bytes) : undefined;
};
const size = ({ prefix }: Subnet): number => 2 ** (32 - prefix);
const textOf = (value: number): string => [24, 16, 8, 0].map((shift) => Math.floor(value / 2 ** shift) % 256).join('.');

/** How many leading bits two addresses of one family share. */
export function sharedBits(a: string, b: string): number {
  const [left, right] = [parse(a)?.toByteArray(), parse(b)?.toByteArray()];
  if (!left || left.length !== right?.length) return 0;
  for (const [n, byte] of left.entries()) {
    const differ = byte ^ (right[n] ?? 0);
    if (differ !== 0) return n * 8 + Math.clz32(differ) - 24;
  }
  return left.length * 8;
}

export const isLoopbackAddress = (host: string): boolean => parse(host)?.range() === 'loopback';
export const isLinkLocal = (host: string): boolean => parse(host)?.range() === 'linkLocal';
export const isMulticast = (host: string): boolean => parse(host)?.range() === 'multicast';
/** True for an address that stands for one computer, and not for many or none. */
export function isOneComputer(host: string): boolean {
  const range = parse(host)?.range();
  return range !== 'multicast' && range !== 'broadcast' && range !== 'unspecified';
}

/** A host with its last bits kept and its first ones taken from another subnet: 10.0.0.5 becomes 10.0.7.5. `undefined` when it is no IPv4 address. */
export function movedTo(subnet: Subnet, host: string): string | undefined {
  const value = number(host);
  if (value === undefined || subnet.family !== 4) return undefined;
  return textOf(numberOf(subnet.bytes) + (value % size(subnet)));
}

/** Reads `10.0.0.0/24`. */
export function parseSubnet(text: string): Result<Subnet, string> {
  const [address = '', prefix = ''] = text.replace(/\s+/g, '').split('/');
  const subnet = /^\d{1,3}$/.test(prefix) ? subnetOf(address, Number(prefix)) : undefined;
  return subnet ? ok(subnet) : fail(`“${text.trim()}” is not a subnet. A subnet looks like 10.0.0.0/24.`);
}

/**
 * The addresses that a search goes through: a subnet (`10.0.0.0/24`, without its first and last), a range
 * (`10.0.0.10-10.0.0.40`, `10.0.0.10-40`) or one address. Refuses more than {@link maxSweepAddresses}, and IPv6, whose
 * subnets are too large to be gone through.
 */
export function addressesIn(text: string): Result<readonly string[], string> {
  const bare = text.replace(/\s+/g, '');
  if (bare.includes(':')) return fail('IPv6 networks are too large to search. Type an IPv4 subnet or range.');
  const range = rangeOf(bare);
  if (!range.ok) return range;
  const { first, last } = range.value;
  const count = last - first + 1;
  if (count > maxSweepAddresses) {
    return fail(
      `That is ${count} addresses; ${maxSweepAddresses} (a /20) at the most are searched. Choose a part of it.`,
    );
  }
  return ok(Array.from({ length: count }, (_, n) => textOf(first + n)));
}

function rangeOf(text: string): Result<{ readonly first: number; readonly last: number }, string> {
  if (text.includes('/')) {
    const subnet = parseSubnet(text);
    if (!subnet.ok) return subnet;
    const from = numberOf(subnet.value.bytes);
    const edge = subnet.value.prefix < 31 ? 1 : 0;
    return ok({ first: from + edge, last: from + size(subnet.value) - 1 - edge });
  }
  const [from = '', to = from] = text.split('-');
  const first = number(from);
  const last = /^\d{1,3}$/.test(to) && first !== undefined ? first - (first % 256) + Number(to) : number(to);
  const short = /^\d{1,3}$/.test(to) && Number(to) > 255;
  if (first === undefined || last === undefined || short || last < first) {
    return fail(`“${text}” is neither a subnet nor a range. They look like 10.0.0.0/24 or 10.0.0.10-40.`);
  }
  return ok({ first, last });
}
