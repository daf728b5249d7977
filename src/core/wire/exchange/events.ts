/**
 * Server-sent events (WHATWG HTML, 9.2.6 “Interpreting an event stream”): cuts the stream into events and gives the data
 * of each. An event longer than allowed is dropped.
 */
export class EventStreamReader {
  private readonly decoder = new TextDecoder('utf-8');
  private line = '';
  private data: string[] = [];
  private size = 0;
  private overlong = false;

  constructor(private readonly maxEventBytes: number) {}

  push(chunk: Uint8Array): ({ readonly data: string } | 'overlong')[] {
    const events: ({ readonly data: string } | 'overlong')[] = [];
    const pieces = (this.line + this.decoder.decode(chunk, { stream: true })).split(/\r\n|\n|\r(?!$)/);
    this.line = pieces.pop() ?? '';
    if (this.line.length > this.maxEventBytes) {
      this.overlong = true;
      this.line = '';
    }
    for (const piece of pieces) this.take(piece.replace(/\r$/, ''), events);
    return events;
  }

  private take(line: string, events: ({ readonly data: string } | 'overlong')[]): void {
    if (line !== '') {
      if (!line.startsWith('data')) return;
      const [, value = ''] = /^data(?:: ?(.*))?$/.exec(line) ?? [];
      // A line without anything in it takes room, too.
      this.size += value.length + 1;
      if (this.size > this.maxEventBytes) this.overlong = true;
      else this.data.push(value);
      return;
    }
    if (this.overlong) events.push('overlong');
    else if (this.data.length > 0) events.push({ data: this.data.join('\n') });
    this.data = [];
    this.size = 0;
    this.overlong = false;
  }
}
