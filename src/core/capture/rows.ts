import type { WireRow } from '../live';
import type { Result } from '../result';
import { isCut, makeExchange, toHex, type Framing } from '../wire';
import { conversationsOf, type Conversation } from './conversations';
import { readCapture, type CaptureError } from './packets';
import type { Endpoint } from './segment';

/** A device of the rig, as far as its conversations can be told by it. */
export interface CaptureDevice {
  readonly id: string;
  readonly transport: 'tcp' | 'udp';
  readonly host: string;
  readonly port: number;
  readonly framing: Framing;
}

/** A conversation of a capture, as it is offered to be looked at. */
export interface CapturePart {
  /** The id of the device, or a name that only this capture uses. */
  readonly id: string;
  readonly transport: 'tcp' | 'udp';
  readonly caller: Endpoint;
  readonly called: Endpoint;
  /** The device of the rig: `exact` by its address and port, else by its port alone. */
  readonly device?: { readonly id: string; readonly isExact: boolean };
  readonly rows: number;
  readonly missing: number;
}

export interface CaptureReading {
  readonly kind: 'pcap' | 'pcapng';
  readonly packets: number;
  readonly parts: readonly CapturePart[];
  /** Rows as on the wire; `device` is the id of the part. */
  readonly rows: readonly WireRow[];
  /** The byte at which the file breaks off. */
  readonly cutAt?: number;
  /** More rows than are shown at once; the last ones are left out. */
  readonly isLong: boolean;
}

/** More than this nobody looks through, and a browser could not hold. */
const mostRows = 50_000;

/** Reads a capture and lays its conversations out as rows of the wire, cut into frames as the drivers of the rig cut them. */
export function captureRows(file: Uint8Array, devices: readonly CaptureDevice[]): Result<CaptureReading, CaptureError> {
  const read = readCapture(file);
  if (!read.ok) return read;
  const { kind, packets, cutAt } = read.value;
  const rows: Omit<WireRow, 'n'>[] = [];
  const parts = conversationsOf(packets).map((conversation, n): CapturePart => {
    const found = deviceOf(conversation, devices);
    const id = found?.device.id ?? `part-${n}`;
    const own = rowsOf(conversation, id, found);
    for (const row of own) rows.push(row);
    const { transport, caller, called, missing } = conversation;
    const device = found && { id: found.device.id, isExact: found.isExact };
    return { id, transport, caller, called, ...(device ? { device } : {}), rows: own.length, missing };
  });
  rows.sort((a, b) => a.at - b.at);
  return {
    ok: true,
    value: {
      kind,
      packets: packets.length,
      parts,
      rows: rows.slice(0, mostRows).map((row, n) => ({ ...row, n: n + 1 })),
      ...(cutAt === undefined ? {} : { cutAt }),
      isLong: rows.length > mostRows,
    },
  };
}

interface Found {
  readonly device: CaptureDevice;
  readonly isExact: boolean;
  /** It was the device that called. */
  readonly isCaller: boolean;
}

function deviceOf({ transport, caller, called }: Conversation, devices: readonly CaptureDevice[]): Found | undefined {
  const alike = devices.filter((device) => device.transport === transport);
  const at = (end: Endpoint) => alike.filter(({ port }) => port === end.port);
  for (const [end, isCaller] of [
    [called, false],
    [caller, true],
  ] as const) {
    const device = at(end).find(
      ({ host }) => host === end.address || (host === 'localhost' && end.address === '127.0.0.1'),
    );
    if (device) return { device, isExact: true, isCaller };
  }
  // The capture may come from another room: a port that only one device has tells it.
  const [only, ...more] = at(called);
  return only && more.length === 0 ? { device: only, isExact: false, isCaller: false } : undefined;
}

function rowsOf({ transport, pieces }: Conversation, device: string, found: Found | undefined): Omit<WireRow, 'n'>[] {
  const framing = found?.device.framing;
  const begin = () => (framing && isCut(framing) ? makeExchange(framing, transport === 'tcp') : undefined);
  let exchange = begin();
  let heardAt = 0;
  const rows: Omit<WireRow, 'n'>[] = [];
  const put = (at: number, raw: Uint8Array, note?: string) =>
    rows.push({ at, device, dir: 'in', hex: toHex(raw), ...(note === undefined ? {} : { note }) });
  /** What a pause has ended, and what will not end any more. */
  const end = () => {
    for (const { raw, fault } of exchange?.flush?.() ?? []) put(heardAt, raw, fault);
    const rest = exchange?.rest();
    if (rest && rest.length > 0) put(heardAt, rest, 'an incomplete message');
    exchange = begin();
  };
  for (const { at, bytes, toCalled, missing, isCut: isShort } of pieces) {
    // Of one conversation more than these could not be among the first of all.
    if (rows.length > mostRows) return rows;
    const dir = toCalled !== (found?.isCaller ?? false) ? 'out' : 'in';
    // Behind a gap a message would be read that nobody sent.
    if (missing > 0 && dir === 'in') end();
    if (missing > 0)
      rows.push({ at, device, dir: 'note', hex: '', note: `${missing} bytes are missing in the capture` });
    const short: { readonly note?: string } = isShort ? { note: 'the capture kept only the beginning' } : {};
    if (dir === 'out' || !exchange) {
      rows.push({ at, device, dir, hex: toHex(bytes), ...short });
      continue;
    }
    const { silenceMs } = exchange;
    if (silenceMs !== undefined && at - heardAt >= silenceMs)
      for (const { raw, fault } of exchange.flush?.() ?? []) put(heardAt, raw, fault);
    heardAt = at;
    for (const { raw, fault } of exchange.read(bytes)) put(at, raw, fault ?? short.note);
  }
  end();
  return rows;
}
