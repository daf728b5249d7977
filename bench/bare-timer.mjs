// The smallest loop that sends lines at set times: a timer to two milliseconds before, then polls that yield. What comes back is read
// and thrown away.
//   node bare-timer.mjs <macros> <steps> <milliseconds between steps> <device port>
// Tells how late each line was, in milliseconds.
import { connect } from 'node:net';

const [macros, steps, everyMs, port] = process.argv.slice(2).map(Number);
const device = connect({ port, host: '127.0.0.1', noDelay: true }).resume();
await new Promise((resolve) => device.once('connect', resolve));
const startAt = performance.now() + 300;
const due = [];
for (let m = 0; m < macros; m += 1) for (let s = 0; s < steps; s += 1) due.push(startAt + s * everyMs + m * 1.7);
due.sort((a, b) => a - b);
const late = [];
let next = 0;
function look() {
  while (next < due.length && due[next] <= performance.now()) {
    device.write(`TAKE ${(next % 6) + 1}\r\n`);
    late.push(performance.now() - due[next]);
    next += 1;
  }
  if (next >= due.length) return process.send({ late });
  const wait = due[next] - performance.now();
  if (wait > 2) setTimeout(look, wait - 2);
  else setImmediate(look);
}
look();
process.on('disconnect', () => process.exit(0));
