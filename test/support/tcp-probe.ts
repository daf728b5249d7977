import { makeExchange } from '../../src/core/wire';
import { TcpLink } from '../../src/engine/devices/links/tcp-link';

/**
 * Holds one connection from wherever it is started, and prints when it opens and when and why it ends: run inside a network of its own.
 *   node tcp-probe.js <host> <port>
 */
const [, , host = '', port = '0'] = process.argv;
const framing = { kind: 'lines', ending: 'any', encoding: 'utf-8', maxFrameBytes: 1000 } as const;
new TcpLink(
  { host, port: Number(port), user: '', password: '' },
  { secure: false, checkCertificate: false, tcpKeepAlive: true, notifications: 0 },
  makeExchange(framing, true),
  {
    onOpen: () => console.log('open'),
    onArrived: () => undefined,
    onBytes: () => undefined,
    onRejected: () => console.log('rejected'),
    onEnd: (cause, detail) => {
      console.log(`end ${cause} ${detail ?? ''}`);
      process.exit(0);
    },
  },
);
