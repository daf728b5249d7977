import type { Packet } from './packets';
import { segmentIn, type Endpoint, type Segment } from './segment';
import { TcpStream, type Piece } from './stream';

/** Everything that went between two endpoints over TCP or UDP. */
export interface Conversation {
  readonly transport: 'tcp' | 'udp';
  /** Who called, as far as the capture tells, and who was called. */
  readonly caller: Endpoint;
  readonly called: Endpoint;
  readonly pieces: readonly (Piece & { readonly toCalled: boolean; readonly isCut: boolean })[];
  /** Bytes that the capture lacks. */
  readonly missing: number;
}

interface Open {
  readonly transport: 'tcp' | 'udp';
  readonly ends: readonly [Endpoint, Endpoint];
  /** Which of the two called, as far as it is known. */
  callerIs: 0 | 1;
  isSure: boolean;
  /** What each of the two sent. */
  readonly streams: readonly [TcpStream, TcpStream];
  readonly pieces: (Piece & { readonly from: 0 | 1; readonly isCut: boolean })[];
}

/** The conversations in a capture, in the order in which they began. */
export function conversationsOf(packets: readonly Packet[]): Conversation[] {
  // By where a packet comes from and where it goes: each conversation is in it both ways.
  const open = new Map<string, { readonly known: Open; readonly from: 0 | 1 }>();
  const all: Open[] = [];
  for (const packet of packets) {
    const segment = segmentIn(packet);
    if (!segment) continue;
    const { transport, from, to } = segment;
    let place = open.get(`${transport} ${from.address} ${from.port} ${to.address} ${to.port}`);
    if (!place) {
      const known = begun(segment);
      all.push(known);
      open.set(`${transport} ${to.address} ${to.port} ${from.address} ${from.port}`, { known, from: 1 });
      open.set(`${transport} ${from.address} ${from.port} ${to.address} ${to.port}`, (place = { known, from: 0 }));
    }
    take(place.known, place.from, segment);
  }
  return all.map(ended);
}

const begun = ({ transport, from, to, isOpening }: Segment): Open => ({
  transport,
  ends: [from, to],
  // Until a call is seen the lower port is the one that was called: those of callers are high.
  callerIs: isOpening || to.port <= from.port ? 0 : 1,
  isSure: false,
  streams: [new TcpStream(), new TcpStream()],
  pieces: [],
});

function take(open: Open, from: 0 | 1, segment: Segment): void {
  const { transport, at, payload, isCut, isOpening } = segment;
  if (isOpening && !open.isSure) {
    open.callerIs = from;
    open.isSure = true;
  }
  if (transport === 'udp') {
    if (payload.length > 0) open.pieces.push({ at, bytes: payload, missing: 0, from, isCut });
    return;
  }
  for (const { at: then, bytes, missing } of open.streams[from].push(segment))
    open.pieces.push({ at: then, bytes, missing, from, isCut });
}

function ended({ transport, ends, callerIs, streams, pieces }: Open): Conversation {
  for (const from of [0, 1] as const)
    for (const { at, bytes, missing } of streams[from].flush()) pieces.push({ at, bytes, missing, from, isCut: false });
  pieces.sort((a, b) => a.at - b.at);
  return {
    transport,
    caller: ends[callerIs],
    called: ends[callerIs === 0 ? 1 : 0],
    pieces: pieces.map(({ at, bytes, missing, from, isCut }) => ({
      at,
      bytes,
      missing,
      isCut,
      toCalled: from === callerIs,
    })),
    missing: pieces.reduce((sum, each) => sum + each.missing, 0),
  };
}
