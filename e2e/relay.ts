import { connect, createServer, type AddressInfo, type Socket } from 'node:net';

/** A piece of network between a browser and the program, which a test can cut. */
interface Relay {
  readonly url: string;
  /** Cuts every connection through it and takes no new one. */
  cut(): void;
  stop(): Promise<void>;
}

export async function startRelay(to: string): Promise<Relay> {
  const port = Number(new URL(to).port);
  const sockets = new Set<Socket>();
  let isCut = false;
  const server = createServer((near) => {
    if (isCut) return void near.destroy();
    const far = connect(port, '127.0.0.1');
    for (const [from, into] of [
      [near, far],
      [far, near],
    ] as const) {
      sockets.add(from);
      // One end that is gone takes the other with it.
      from.on('error', () => into.destroy());
      from.on('close', () => {
        sockets.delete(from);
        into.destroy();
      });
      from.pipe(into);
    }
  });
  await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve));
  const cut = () => {
    isCut = true;
    for (const socket of sockets) socket.destroy();
  };
  return {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    cut,
    stop: () => {
      cut();
      return new Promise((resolve) => server.close(() => resolve()));
    },
  };
}
