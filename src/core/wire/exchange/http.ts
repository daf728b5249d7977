import { parseJson } from '../json';
import { readXml } from '../xml';
import type { Arrived, Said } from './exchange';
import type { Framing } from './framing';

/** What an HTTP response, or one event of a stream, says. */
interface HttpArrived {
  readonly status: number;
  readonly body: Uint8Array;
  /** Those that the driver reads, by name in small letters. */
  readonly headers?: Readonly<Record<string, string>>;
}

const utf8 = new TextDecoder('utf-8');

/**
 * Reads a response. A status from 200 to 299 is done (or what the framing says besides), any other refuses with the status as its code;
 * the body is read either way, because it contains the reason.
 */
export function arrivedFromHttp(
  framing: Extract<Framing, { kind: 'http' }>,
  { status, body, headers = {} }: HttpArrived,
  ref: number,
): Arrived {
  const text = utf8.decode(body);
  const read = sayingsOf(framing, text);
  const { done = '2xx' } = framing;
  const good = done === 'any' || (status >= 200 && status < (done === '3xx' ? 400 : 300));
  const lines = Object.entries(headers);
  const shown = lines.map(([name, value]) => `${name}: ${value}\r\n`).join('');
  const head = new TextEncoder().encode(`HTTP/1.1 ${status}\r\n${shown}\r\n`);
  const says = [...read.says, ...lines.map(([name, value]): Said => ({ kind: 'header', name, text: value }))];
  const raw = new Uint8Array(head.length + body.length);
  raw.set(head);
  raw.set(body, head.length);
  if (good) return { raw, says, answer: { ref, how: 'done' }, fault: read.fault };
  return { raw, says, answer: { ref, how: 'refused', code: String(status) } };
}

/**
 * The parts of a response as it came (RFC 9112, 4): its status line, headers and body. Bytes without a status line, as those of an event, are a body.
 */
export function httpParts(raw: Uint8Array): HttpArrived {
  const head = latin1.decode(raw.subarray(0, mostHeadBytes));
  const status = /^HTTP\/\d(?:\.\d)? (\d{3})/.exec(head)?.[1];
  const end = head.indexOf('\r\n\r\n');
  if (status === undefined || end === -1) return { status: 200, body: raw };
  const lines = head.slice(0, end).split('\r\n').slice(1);
  const headers = lines.flatMap((line) => {
    const at = line.indexOf(':');
    return at === -1 ? [] : [[line.slice(0, at).toLowerCase(), line.slice(at + 1).trim()] as const];
  });
  return { status: Number(status), body: raw.subarray(end + 4), headers: Object.fromEntries(headers) };
}

const latin1 = new TextDecoder('latin1');
const mostHeadBytes = 16_384;

/** Reads the data of one event of a stream. */
export function arrivedFromEvent(framing: Extract<Framing, { kind: 'http' }>, data: string, raw: Uint8Array): Arrived {
  const { says, fault } = sayingsOf(framing, data);
  return { raw, says, fault };
}

function sayingsOf(
  { body: as, lists }: Extract<Framing, { kind: 'http' }>,
  text: string,
): { says: Said[]; fault?: string } {
  if (as === 'none' || text === '') return { says: [] };
  if (as === 'xml') {
    const value = readXml(text, lists);
    return value.ok
      ? { says: [{ kind: 'json', text, value: value.value }] }
      : { says: [], fault: `It cannot be read as XML: ${value.error}` };
  }
  if (as === 'json') {
    const value = parseJson(text);
    return value.ok
      ? { says: [{ kind: 'json', text, value: value.value }] }
      : { says: [], fault: `It is not JSON: ${value.error}` };
  }
  // Pairs stand one a line or between ampersands; each is seen as a line `key=value`.
  const lines = as === 'pairs' ? text.split(/[\r\n&]+/) : text.split(/\r?\n/);
  return {
    says: lines
      .filter((line) => line !== '')
      .map((line) => ({ kind: 'text', text: as === 'pairs' ? unescaped(line) : line })),
  };
}

/** `application/x-www-form-urlencoded` (WHATWG URL, 5.1) as far as it is well formed; what is not stays as it came. */
function unescaped(pair: string): string {
  const [key = '', ...rest] = pair.split('=');
  const decode = (part: string) => {
    try {
      return decodeURIComponent(part.replaceAll('+', ' '));
    } catch {
      return part;
    }
  };
  return `${decode(key.trim())}=${decode(rest.join('=').trim())}`;
}
