import { fail, ok, type Result } from '../result';

/** A part of a stream: its headers by their names in lower case, and its body. */
interface Part {
  readonly headers: ReadonlyMap<string, string>;
  readonly body: Uint8Array;
}

type MultipartError = 'part-too-large' | 'headers-too-large' | 'no-boundary';

/** What a multipart type names as its boundary (RFC 2046, 5.1.1); `undefined` for another type, or where it names none. */
export function boundaryOf(contentType: string): string | undefined {
  if (!/^multipart\//i.test(contentType)) return undefined;
  const [, quoted, plain] = /;\s*boundary=(?:"([^"]{1,72})"|([^\s;"]{1,72}))/i.exec(contentType) ?? [];
  // Some senders name the boundary with the two hyphens that only stand before it in the stream.
  return (quoted ?? plain)?.replace(/^--/, '');
}

const maxHeaderBytes = 8192;
const [lineFeed, carriageReturn] = [0x0a, 0x0d];

/**
 * Cuts a stream of parts that replace one another (`multipart/x-mixed-replace`, framed as in RFC 2046, 5.1) into its parts. A part ends where
 * its `Content-Length` says, or before the next boundary where it says nothing.
 *
 *     --boundary CRLF headers CRLF CRLF body CRLF --boundary …
 */
export class MultipartFramer {
  private held = new Uint8Array();
  private readonly mark: Uint8Array;
  private broken: MultipartError | undefined;
  /** Up to where no boundary is, while the end of a body is looked for. */
  private searchedTo = 0;

  constructor(
    boundary: string,
    private readonly maxPartBytes: number,
  ) {
    this.mark = new TextEncoder().encode(`--${boundary}`);
  }

  /** The parts that are whole with these bytes. After an error nothing comes any more. */
  push(chunk: Uint8Array): Result<Part[], MultipartError> {
    if (this.broken) return fail(this.broken);
    this.held = joined(this.held, chunk);
    const parts: Part[] = [];
    for (;;) {
      const next = this.cut();
      if (next === undefined) return ok(parts);
      if (!next.ok) {
        this.broken = next.error;
        this.held = new Uint8Array();
        return parts.length > 0 ? ok(parts) : next;
      }
      parts.push(next.value);
    }
  }

  private cut(): Result<Part, MultipartError> | undefined {
    const at = find(this.held, this.mark, 0);
    if (at < 0) return this.held.length > maxHeaderBytes ? fail('no-boundary') : undefined;
    if (at > maxHeaderBytes) return fail('no-boundary');
    const from = at + this.mark.length;
    const end = headerEnd(this.held, from);
    if (!end) return this.held.length - from > maxHeaderBytes ? fail('headers-too-large') : undefined;
    if (end.at - from > maxHeaderBytes) return fail('headers-too-large');
    const headers = readHeaders(new TextDecoder('latin1').decode(this.held.subarray(from, end.at)));
    const declared = /^\d{1,9}$/.exec(headers.get('content-length') ?? '')?.[0];
    const start = end.at + end.size;
    const size = declared === undefined ? this.sizeUntilMark(start) : Number(declared);
    if ((size ?? this.held.length - start) > this.maxPartBytes) return fail('part-too-large');
    if (size === undefined || this.held.length < start + size) return undefined;
    const body = this.held.slice(start, start + size);
    this.held = this.held.subarray(start + size);
    this.searchedTo = 0;
    return ok({ headers, body });
  }

  /** How long a body is that ends before the next boundary; the line break before that belongs to the boundary (RFC 2046, 5.1.1). */
  private sizeUntilMark(start: number): number | undefined {
    const next = find(this.held, this.mark, Math.max(start, this.searchedTo));
    if (next < 0) {
      this.searchedTo = Math.max(0, this.held.length - this.mark.length);
      return undefined;
    }
    const breakSize = this.held[next - 1] !== lineFeed ? 0 : this.held[next - 2] === carriageReturn ? 2 : 1;
    return Math.max(0, next - breakSize - start);
  }
}

function joined(before: Uint8Array, after: Uint8Array): Uint8Array<ArrayBuffer> {
  const both = new Uint8Array(before.length + after.length);
  both.set(before);
  both.set(after, before.length);
  return both;
}

/** Where these bytes begin; -1 where they do not come. */
function find(bytes: Uint8Array, wanted: Uint8Array, from: number): number {
  const [first = 0] = wanted;
  for (let at = bytes.indexOf(first, from); at >= 0; at = bytes.indexOf(first, at + 1)) {
    if (at + wanted.length > bytes.length) return -1;
    if (wanted.every((byte, n) => bytes[at + n] === byte)) return at;
  }
  return -1;
}

/** Where the headers end: at an empty line, which some senders end with LF alone. */
function headerEnd(bytes: Uint8Array, from: number): { readonly at: number; readonly size: number } | undefined {
  for (let at = bytes.indexOf(lineFeed, from); at >= 0; at = bytes.indexOf(lineFeed, at + 1)) {
    if (bytes[at + 1] === lineFeed) return { at, size: 2 };
    if (bytes[at + 1] === carriageReturn && bytes[at + 2] === lineFeed) return { at, size: 3 };
  }
  return undefined;
}

function readHeaders(text: string): ReadonlyMap<string, string> {
  const lines = text.split('\n').filter((line) => line.includes(':'));
  return new Map(
    lines.map((line) => {
      const at = line.indexOf(':');
      return [line.slice(0, at).trim().toLowerCase(), line.slice(at + 1).trim()] as const;
    }),
  );
}
