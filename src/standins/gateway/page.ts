/** The gateway's page: relays, the flag on its lift, and the serial port. */

export const gatewayCss = `.cols { display: grid; grid-template-columns: 1fr 240px; gap: 30px; margin-top: 20px; } .mast { position: relative; height: 300px; border-left: 6px solid #b9a88c; margin-left: 60px; } .flag { position: absolute; left: 0; width: 110px; height: 60px; background: #d7c9ae; clip-path: polygon(0 0, 100% 20%, 80% 50%, 100% 80%, 0 100%); }`;
export const gatewayBody = `<div class="cols"><div><h2>Relays</h2><div class="acts" id="coils"></div><dl id="facts"></dl><div class="acts"><button id="door"></button></div></div><div class="mast"><div class="flag" id="flag"></div></div></div>`;
export const gatewayScript = `
const names = ['Horn', 'On-air light, boat', 'On-air light, tower', 'Flag up', 'Flag down'];
let last = {};
on('door', 'click', () => op({ verb: 'door', closed: !last.doorClosed }));
draw = (s) => {
  last = s;
  show('coils', each(s.coils, (c, n) => '<button aria-pressed="' + c + '"' + does({ verb: 'coil', n, on: !c }) + '>' + n + ' ' + names[n] + '</button>'));
  $('flag').style.bottom = s.flagHeight * 0.8 + '%'; $('door').textContent = s.doorClosed ? 'Open the door' : 'Close the door';
  show('facts', each([['Horn', s.coils[0] ? 'sounds, ' + (s.hornTenths / 10).toFixed(1) + ' s' : 'silent'], ['Horn at the longest', s.holding[0] / 10 + ' s'], ['Flag', Math.round(s.flagHeight) + ' % of the mast'], ['Door', s.doorClosed ? 'closed' : 'open'], ['Serial port', 'TCP port ' + s.serialPort + ', ' + s.serialConnected + ' connected']], ([k, v]) => '<dt>' + k + '</dt><dd>' + v + '</dd>'));
};`;
