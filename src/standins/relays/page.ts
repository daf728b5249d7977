/** The relay box's page: what is on, how far the blinds are open, and where the lift is. */

export const relaysCss = `.cols { display: grid; grid-template-columns: 1fr 1fr; gap: 30px; margin-top: 20px; } @media (max-width: 700px) { .cols { grid-template-columns: 1fr; } } .window { position: relative; height: 180px; background: #9fb4b8; border: 4px solid #4a5056; overflow: hidden; } .window i { position: absolute; inset: 0 0 auto 0; background: repeating-linear-gradient(#5b5348 0 10px, #4a433a 10px 12px); } .shaft { position: relative; height: 180px; width: 90px; border: 4px solid #4a5056; } .shaft i { position: absolute; left: 0; right: 0; height: 46px; background: #b9a88c; }`;

export const relaysBody = `<div class="cols"><div><h2>Relays</h2><div class="acts" id="relays"></div><h2>Contacts</h2><div class="acts"><button id="door"></button><button id="bell"></button></div></div>
  <div><h2>Blinds</h2><div class="window"><i id="blinds"></i></div><div class="acts" id="blindsActs"></div><h2>Lift</h2><div class="shaft"><i id="lift"></i></div><div class="acts" id="liftActs"></div></div></div>`;

export const relaysScript = `
let last = {};
on('door', 'click', () => op({ verb: 'door', closed: !last.doorClosed }));
on('bell', 'click', () => op({ verb: 'bell', on: !last.bell }));
draw = (s) => {
  last = s;
  show('relays', each(s.relays, (on, n) => '<button aria-pressed="' + on + '"' + does({ verb: 'coil', n, on: !on }) + '>' + (n + 1) + ' ' + safe(s.names[n]) + '</button>'));
  for (const part of ['blinds', 'lift'])
    show(part + 'Acts', each(s.pulseNames, (name, n) => name.startsWith(part) ? '<button aria-pressed="' + s.pulses[n] + '"' + does({ verb: 'coil', n: s.relays.length + n, on: true }) + '>' + safe(name.slice(part.length)) + '</button>' : ''));
  $('blinds').style.height = 100 - s.blinds + '%'; $('lift').style.bottom = s.lift * 0.74 + '%';
  $('door').textContent = s.doorClosed ? 'Open the door' : 'Close the door'; $('bell').textContent = s.bell ? 'Release the bell' : 'Ring the bell';
};`;
