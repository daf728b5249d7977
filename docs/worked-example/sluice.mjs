// The made-up device of the worked example in docs/drivers.md: a sluice gate. Plain Node.js: node sluice.mjs [port]
import { createServer } from 'node:net';

const port = Number(process.argv[2] ?? 7300);
const sockets = new Set();
let opening = 20;
let wanted = 20;
let locked = false;

const report = (line) => {
  for (const socket of sockets) socket.write(`${line}\r`);
};

setInterval(() => {
  if (opening === wanted) return;
  opening += Math.sign(wanted - opening);
  report(`!POS ${String(opening).padStart(3, '0')}`);
}, 40);

const answer = (line) => {
  const [, word, value] = /^([A-Z]+)(?:=(\w+))?(\?)?$/.exec(line) ?? [];
  if (line === 'POS?') return `POS ${String(opening).padStart(3, '0')}`;
  if (line === 'LOCK?') return `LOCK ${locked ? 'ON' : 'OFF'}`;
  if (word === 'GOTO' && /^\d{1,3}$/.test(value ?? '')) {
    if (locked) return 'ERR 2';
    if (Number(value) > 100) return 'ERR 1';
    wanted = Number(value);
    return 'OK';
  }
  if (line === 'HALT') {
    wanted = opening;
    return 'OK';
  }
  if (line === 'LOCK=ON' || line === 'LOCK=OFF') {
    locked = line === 'LOCK=ON';
    report(`!LOCK ${locked ? 'ON' : 'OFF'}`);
    return 'OK';
  }
  return 'ERR 9';
};

createServer((socket) => {
  sockets.add(socket);
  socket.on('error', () => socket.destroy());
  socket.on('close', () => sockets.delete(socket));
  socket.write('SLUICE V2\r');
  let held = '';
  socket.setEncoding('latin1').on('data', (text) => {
    const lines = (held + text).split('\r');
    held = lines.pop().slice(-200);
    for (const line of lines) socket.write(`${answer(line)}\r`);
  });
}).listen(port, '127.0.0.1', function () {
  console.log(`The sluice gate listens on 127.0.0.1, port ${this.address().port}.`);
});
