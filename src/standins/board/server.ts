import { isLost, Outlet, Standin, standinPage, TcpStandin, type Client, type StandinOptions } from '../kit';
import type { SerialLine } from '../gateway/serial-line';
import { boardBody, boardCss, boardScript } from './page';
import { BoardUnit } from './unit';

interface BoardOptions extends StandinOptions {
  readonly line: SerialLine;
}

/** The old results board on a serial line. It has no address of its own; it is reached through the gateway's serial port. */
export class BoardStandin extends Standin {
  readonly title = 'Results board';
  private readonly unit: BoardUnit;

  constructor(private readonly board: BoardOptions) {
    super(board);
    const outlet = new Outlet(
      () => this.faults,
      (bytes) => this.board.line.fromDevice(bytes),
    );
    this.unit = new BoardUnit({
      faults: () => this.faults,
      say: (bytes) => outlet.send(bytes),
      onChange: () => this.tell(),
    });
  }

  page = (): string =>
    standinPage({ tag: this.tag, title: this.title, css: boardCss, body: boardBody, script: boardScript });
  protected own = () => this.unit.state;

  protected byHand(body: unknown): string | undefined {
    return this.unit.byHand(body);
  }

  protected get controllers(): number {
    return this.board.line.listening;
  }

  drop(): void {}

  sendRaw(bytes: Uint8Array): void {
    this.board.line.fromDevice(bytes);
  }

  protected open(_host: string, port: number): Promise<number> {
    this.board.line.plug((bytes) => void (isLost(this.faults.lossPercent) || this.unit.onBytes(bytes)));
    return Promise.resolve(port);
  }

  protected shut(): Promise<void> {
    this.board.line.plug(undefined);
    return Promise.resolve();
  }
}

/** A public board of the same make with a network port of its own. What it says goes to everybody who is connected. */
export class NetworkBoardStandin extends TcpStandin {
  readonly title = 'Public board';
  private readonly unit = new BoardUnit({
    faults: () => this.faults,
    say: (bytes) => {
      for (const client of this.clients) client.send(bytes);
    },
    onChange: () => this.tell(),
  });

  page = (): string =>
    standinPage({ tag: this.tag, title: this.title, css: boardCss, body: boardBody, script: boardScript });
  protected own = () => this.unit.state;

  protected byHand(body: unknown): string | undefined {
    return this.unit.byHand(body);
  }

  protected welcome(_client: Client): (chunk: Uint8Array) => void {
    return (chunk) => this.unit.onBytes(chunk);
  }
}
