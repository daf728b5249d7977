// Devices in a crowd: each on a port of its own, speaking the vision switcher's protocol, each reporting a change so many
// times a second.
//   node crowd.mjs <devices> <reports a second>
import { createServer } from 'node:net';

const [count, rate] = process.argv.slice(2).map(Number);
const sockets = new Set();
const ports = [];
let reported = 0;

for (let n = 0; n < count; n += 1) {
  const server = createServer((socket) => {
    socket.setNoDelay(true);
    sockets.add(socket);
    socket.on('error', () => undefined).on('close', () => sockets.delete(socket));
    socket.write('HAIL switcher 1 12\r\n');
    socket.setEncoding('utf8').on('data', (text) => {
      for (const line of text.split('\r\n')) if (line !== '') socket.write('DONE\r\n');
    });
  });
  await new Promise((resolve) => server.listen(0, '127.0.0.1', resolve));
  ports.push(server.address().port);
}
let turn = 0;
// Independent devices report at times of their own: each has its place, to the millisecond, between two of its reports.
const slices = Math.round(1000 / rate);
const startedAt = performance.now();
setInterval(() => {
  // Timers come late; what is due is made up.
  for (; turn < performance.now() - startedAt; turn += 1) {
    let n = 0;
    for (const socket of sockets) {
      if ((n += 1) % slices !== turn % slices) continue;
      socket.write(`NOW program ${(Math.floor(turn / slices) % 12) + 1}\r\n`);
      reported += 1;
    }
  }
}, 1);
process.on('message', () => process.send({ reported }));
process.on('disconnect', () => process.exit(0));
process.send({ ports });
