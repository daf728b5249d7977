import WebSocket from 'ws';
import { applyDiff, type PageView, type ServerMessage } from '../src/core/live';

/** A screen that comes back whenever it is cut off, as a panel does, and remembers what it was told. */
export class Panel {
  /** Final outcomes that were shown, by press. */
  readonly outcomes = new Map<string, string>();
  readonly delays: number[] = [];
  private readonly topics = new Map<string, unknown>();
  private readonly sentAt = new Map<string, number>();
  private socket: WebSocket | undefined;
  private closed = false;
  private retry: NodeJS.Timeout | undefined;
  private count = 0;

  constructor(
    private readonly url: string,
    private readonly name: string,
    private readonly pages: readonly string[],
  ) {
    this.open();
  }

  /** How often it was connected. */
  opens = 0;

  get isOpen(): boolean {
    return this.socket?.readyState === WebSocket.OPEN;
  }

  /** The lamp of a control as it is shown now; `undefined` while the page is not there. */
  lamp(page: string, control: string): string | undefined {
    const view = this.topics.get(`page:${page}`) as PageView | undefined;
    return view?.faces[control]?.lamp?.show;
  }

  /** True once the page shows which source is on air, and is in doubt about none. */
  isTrue(page: string, controls: readonly string[]): boolean {
    const lamps = controls.map((control) => this.lamp(page, control));
    return this.isOpen && lamps.includes('onAir') && !lamps.some((show) => show === 'unknown' || show === 'stale');
  }

  say(message: object): void {
    if (this.isOpen) this.socket?.send(JSON.stringify(message));
  }

  /** Presses; returns the press's id. */
  press(page: string, control: string, gesture: 'tap' | 'hold' = 'tap'): string {
    const id = `${this.name}-${(this.count += 1)}`;
    this.sentAt.set(id, performance.now());
    this.say({ t: 'press', id, page, control, gesture });
    return id;
  }

  close(): void {
    this.closed = true;
    clearTimeout(this.retry);
    this.socket?.terminate();
  }

  private open(): void {
    const socket = new WebSocket(`${this.url.replace('http', 'ws')}/live?as=panel`, { perMessageDeflate: false });
    this.socket = socket;
    socket.on('open', () => {
      this.opens += 1;
      socket.send(JSON.stringify({ t: 'sub', topics: this.pages.map((page) => `page:${page}`) }));
    });
    socket.on('message', (data: Buffer) => this.onMessage(JSON.parse(String(data)) as ServerMessage));
    socket.on('error', () => undefined);
    socket.on('close', () => {
      this.topics.clear();
      if (!this.closed) this.retry = setTimeout(() => this.open(), 50);
    });
  }

  private onMessage(message: ServerMessage): void {
    if (message.t === 'whole') this.topics.set(message.topic, message.data);
    else if (message.t === 'diff')
      this.topics.set(message.topic, applyDiff(message.topic, this.topics.get(message.topic), message.data));
    else if (message.t === 'press' && message.outcome !== 'taken' && message.outcome !== 'waiting') {
      this.outcomes.set(message.id, message.outcome);
      this.delays.push(performance.now() - (this.sentAt.get(message.id) ?? 0));
    }
  }
}
