// The smallest Node.js program that does the same: the message of a press comes over a WebSocket, the line for that control
// goes out over TCP; a line that comes back goes to the panels as a message. Nothing is checked or recorded. What a crowd of further
// devices says is cut into lines, and the last value of each word is kept.
//   node bare-relay.mjs <WebSocket port> <device port> [<port of a further device> ...]
import { createServer } from 'node:http';
import { connect } from 'node:net';
import { WebSocketServer } from 'ws';

const [wsPort, devicePort, ...crowd] = process.argv.slice(2).map(Number);
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
for (const port of crowd) {
  const last = new Map();
  let rest = '';
  connect({ port, host: '127.0.0.1', noDelay: true }).on('data', (chunk) => {
    const lines = (rest + chunk.toString()).split('\r\n');
    rest = lines.pop();
    for (const line of lines) last.set(line.slice(0, line.lastIndexOf(' ')), line.slice(line.lastIndexOf(' ') + 1));
  });
}
http.listen(wsPort, '127.0.0.1', () => process.send?.('ready'));
process.on('disconnect', () => process.exit(0));
