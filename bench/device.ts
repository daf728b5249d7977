import { createServer, type Server, type Socket } from 'node:net';
import type { AddressInfo } from 'node:net';

/**
 * The other end of both paths, in the measuring process: a device that takes the time of the first byte that comes and
 * answers as the vision switcher would.
 */
export class BenchDevice {
  private server: Server | undefined;
  private readonly sockets = new Set<Socket>();
  /** Called with the time at which bytes came that are a press. */
  onPress: (at: number) => void = () => undefined;

  /** @param speaks true for the switcher's protocol, false for a bare peer */
  constructor(private readonly speaks: boolean) {}

  listen(): Promise<number> {
    this.server = createServer((socket) => this.welcome(socket));
    return new Promise((resolve) => {
      this.server?.listen(0, '127.0.0.1', () => resolve((this.server?.address() as AddressInfo).port));
    });
  }

  /** Reports a change, as if somebody had made it by hand. */
  report(line: string): void {
    for (const socket of this.sockets) socket.write(`${line}\r\n`);
  }

  close(): void {
    for (const socket of this.sockets) socket.destroy();
    this.server?.close();
  }

  private welcome(socket: Socket): void {
    socket.setNoDelay(true);
    this.sockets.add(socket);
    socket.on('error', () => undefined).on('close', () => this.sockets.delete(socket));
    if (this.speaks) socket.write('HAIL switcher 1 12\r\n');
    socket.setEncoding('utf8').on('data', (text: string) => {
      const at = performance.now();
      for (const line of text.split('\r\n')) {
        if (line.startsWith('TAKE ')) {
          this.onPress(at);
          socket.write(`DONE\r\nNOW program ${line.slice(5)}\r\n`);
        } else if (line === 'ASK all') {
          const names = Array.from({ length: 12 }, (_, n) => `NOW name ${n + 1} Input ${n + 1}\r\n`).join('');
          socket.write(`${names}NOW program 1\r\nNOW preview 12\r\nNOW mix idle\r\nDONE\r\n`);
        } else if (line === 'ALIVE') socket.write('DONE\r\n');
      }
    });
  }
}
