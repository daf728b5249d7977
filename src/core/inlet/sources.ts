import ipaddr from 'ipaddr.js';
import type { InletData } from '../show';

/** True for an address from which an inlet takes something: of this computer where nothing else is said. */
export function mayComeFrom({ from }: Pick<InletData, 'from'>, address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  // An IPv4 address may come as an IPv6 one, where a socket takes both.
  const source = ipaddr.process(address);
  if (from.length === 0) return source.range() === 'loopback';
  return from.some((entry) => {
    const [base = '', bits] = entry.split('/');
    if (!ipaddr.isValid(base)) return false;
    const allowed = ipaddr.process(base);
    if (allowed.kind() !== source.kind()) return false;
    const most = allowed.kind() === 'ipv4' ? 32 : 128;
    const length = bits === undefined ? most : Number(bits);
    return length <= most && source.match(allowed, length);
  });
}

/** How many messages of one source are taken within a second. */
const mostPerSecond = 200;

/** Counts what comes from each source, and says what is too much. */
export class SourceBudget {
  private readonly counts = new Map<string, number>();
  private second = 0;

  /** @param now in milliseconds */
  takes(source: string, now: number): boolean {
    const second = Math.floor(now / 1000);
    if (second !== this.second) {
      this.second = second;
      this.counts.clear();
    }
    // Made-up sources do not fill the memory: beyond so many the rest counts as one.
    const known = this.counts.has(source) || this.counts.size < mostSources ? source : theRest;
    const count = (this.counts.get(known) ?? 0) + 1;
    this.counts.set(known, count);
    return count <= mostPerSecond;
  }
}

const mostSources = 500;
const theRest = 'the rest';
