// The smallest loop that sends four universes 44 times a second: one timer, set anew by the plan.
//   node bare-levels.mjs <port> <seconds>
import { createSocket } from 'node:dgram';

const [port, seconds] = process.argv.slice(2).map(Number);
const everyMs = 1000 / 44;
const socket = createSocket('udp4');
const packet = Buffer.alloc(638);
let due = performance.now() + everyMs;
const endAt = due + seconds * 1000;
socket.connect(port, '127.0.0.1', send);

function send() {
  for (let universe = 1; universe <= 4; universe += 1) {
    packet.writeUInt16BE(universe, 113);
    socket.send(Buffer.from(packet));
  }
  due += everyMs;
  if (due > endAt) process.exit(0);
  setTimeout(send, due - performance.now());
}
