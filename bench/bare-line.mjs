// The smallest Node.js program that does what an inlet and a watch do: a line `press n` that comes over TCP goes out to the device as
// `TAKE n`, and so does the n of a line `NOW preview n` that the device reports. Nothing is checked or recorded.
//   node bare-line.mjs <port> <device port>
import { connect, createServer } from 'node:net';

const [port, devicePort] = process.argv.slice(2).map(Number);
const device = connect({ port: devicePort, host: '127.0.0.1', noDelay: true });
const takeAll = (chunk, pattern) => {
  for (const [, input] of chunk.toString().matchAll(pattern)) device.write(`TAKE ${input}\r\n`);
};
device.on('data', (chunk) => takeAll(chunk, /^NOW preview (\d+)/gm));
createServer((socket) => {
  socket.setNoDelay(true);
  socket.on('error', () => undefined);
  socket.on('data', (chunk) => {
    takeAll(chunk, /^press ctl-program-(\d+)/gm);
    socket.write('ok\r\n');
  });
}).listen(port, '127.0.0.1', () => process.send?.('ready'));
process.on('disconnect', () => process.exit(0));
