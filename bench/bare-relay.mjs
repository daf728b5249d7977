// The smallest Node.js program that does the same: the message of a press comes over a WebSocket, the line for that control
// goes out over TCP; a line that comes back goes to the panels as a message. Nothing is checked, kept or recorded.
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
  client.on('message', (data) => device.write(`TAKE ${JSON.parse(data).control.slice('ctl-program-'.length)}\r\n`));
});
device.on('data', (chunk) => {
  const text = JSON.stringify({ t: 'report', line: chunk.toString() });
  for (const client of clients) client.send(text);
});
http.listen(wsPort, '127.0.0.1', () => process.send?.('ready'));
process.on('disconnect', () => process.exit(0));
