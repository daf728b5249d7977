// The smallest Node.js program that does the same: WebSocket to TCP and back, nothing else.
//   node bare-relay.mjs <WebSocket port> <device port>
import { createServer } from 'node:http';
import { connect } from 'node:net';
import { WebSocketServer } from 'ws';

const [wsPort, devicePort] = process.argv.slice(2).map(Number);
const device = connect({ port: devicePort, host: '127.0.0.1', noDelay: true });
const http = createServer();
const clients = new Set();
new WebSocketServer({ server: http, perMessageDeflate: false }).on('connection', (client, req) => {
  req.socket.setNoDelay(true);
  clients.add(client);
  client.on('message', (data) => device.write(data));
});
device.on('data', (chunk) => {
  for (const client of clients) client.send(chunk.toString());
});
http.listen(wsPort, '127.0.0.1', () => process.send?.('ready'));
process.on('disconnect', () => process.exit(0));
