/** The switcher's page: its two outputs as drawn test pictures, and its buttons. */

export const switcherCss = `
  .outputs { display: grid; grid-template-columns: 1fr 1fr; gap: 20px; margin: 20px 0; }
  figure { margin: 0; } figcaption { display: flex; justify-content: space-between; padding: 6px 0; }
  .row { display: grid; grid-template-columns: 90px repeat(12, 1fr); gap: 6px; margin-bottom: 8px; align-items: stretch; }
  .row > span { align-self: center; color: var(--soft); }
  .row button { font-size: 12px; overflow-wrap: anywhere; padding: 4px; min-height: 46px; }
  .layer { position: absolute; inset: 0; } .strap { position: absolute; left: 6%; bottom: 8%; padding: 4px 14px; background: #e6e8ea; color: #111; }
  .inset { position: absolute; transform: translate(-50%, -50%); aspect-ratio: 16 / 9; overflow: hidden; outline: 2px solid #e6e8ea; }
  .two { display: grid; grid-template-columns: 1fr 1fr; gap: 0 30px; }
  @media (max-width: 700px) { .two, .outputs { grid-template-columns: 1fr; } .row { grid-template-columns: repeat(4, 1fr); } .row > span { grid-column: 1 / -1; } }
`;

export const switcherBody = `
  <div class="outputs">
    <figure><div class="screen" id="pgm"></div><figcaption><b>Program</b><span id="pgmName"></span></figcaption></figure>
    <figure><div class="screen" id="pvw"></div><figcaption><b>Preview</b><span id="pvwName"></span></figcaption></figure>
  </div>
  <div class="row" id="pgmRow" role="group" aria-label="Program"><span>Program</span></div>
  <div class="row" id="pvwRow" role="group" aria-label="Preview"><span>Preview</span></div>
  <div class="acts"><button id="cut">Cut</button><button id="mix">Mix</button><button id="black">Fade to black</button>
    <label>Mix takes <input id="rate" type="number" min="1" max="250"> frames</label></div>
  <div class="two">
    <section><h2>Keys</h2><div class="acts" id="keys"></div><h2>Boxes</h2><div class="acts" id="boxes"></div></section>
    <section><h2>Stills</h2><div id="stills"></div><h2>Macros</h2><div class="acts" id="macros"></div><h2>Aux</h2><div id="aux"></div></section>
  </div>
`;

export const switcherScript = `
// Test pictures: each input has a pattern and a pair of colours of its own, its number and its name.
const hues = [205, 150, 45, 275, 185, 95, 320, 25, 240, 0, 60, 175];
function picture(n, name) {
  const h = hues[n - 1], a = 'hsl(' + h + ' 55% 34%)', b = 'hsl(' + h + ' 60% 24%)', c = 'hsl(' + h + ' 70% 62%)';
  const marks = [
    () => '<path d="M0 130Q40 110 80 130T160 130T240 130T320 130V180H0Z" fill="' + c + '"/><rect x="250" y="30" width="16" height="100" fill="' + c + '"/>',
    () => Array.from({length: 8}, (_, i) => '<path d="M' + (i * 46 - 40) + ' 180L' + (i * 46 + 30) + ' 0h14l-70 180z" fill="' + c + '"/>').join(''),
    () => Array.from({length: 32}, (_, i) => '<rect x="' + (220 + (i % 4) * 20) + '" y="' + (10 + Math.floor(i / 4) * 20) + '" width="20" height="20" fill="' + ((i + Math.floor(i / 4)) % 2 ? '#fff' : '#111') + '"/>').join(''),
    () => '<circle cx="250" cy="70" r="34" fill="' + c + '"/><path d="M190 180q60-110 120 0z" fill="' + c + '"/>',
    () => [70, 50, 30, 12].map((r, i) => '<circle cx="240" cy="90" r="' + r + '" fill="none" stroke="' + c + '" stroke-width="7"/>').join(''),
    () => '<path d="M180 130h120l-24 34h-72z" fill="' + c + '"/><path d="M236 126V40l56 86z" fill="' + c + '"/>',
    () => '<path d="M200 50l90 45-90 45z" fill="' + c + '"/>',
    () => [40, 80, 120].map((y) => '<rect x="180" y="' + y + '" width="' + (130 - y / 2) + '" height="16" fill="' + c + '"/>').join(''),
    () => [0, 1, 2].map((i) => '<rect x="' + (190 + i * 22) + '" y="' + (40 + i * 22) + '" width="80" height="56" fill="' + b + '" stroke="' + c + '" stroke-width="5"/>').join(''),
    () => [0, 1, 2, 3].map((i) => '<rect x="' + (180 + (i % 2) * 66) + '" y="' + (34 + (i > 1) * 60) + '" width="58" height="50" fill="' + c + '"/>').join(''),
    () => '<circle cx="240" cy="90" r="60" fill="none" stroke="' + c + '" stroke-width="9"/><path d="M240 90V46M240 90l34 20" stroke="' + c + '" stroke-width="9"/>',
    () => ['#bfbfbf','#bfbf00','#00bfbf','#00bf00','#bf00bf','#bf0000','#0000bf'].map((f, i) => '<rect x="' + (180 + i * 20) + '" y="0" width="20" height="180" fill="' + f + '"/>').join(''),
  ];
  const safe = name.replace(/[&<>]/g, (x) => ({'&':'&amp;','<':'&lt;','>':'&gt;'}[x]));
  return '<svg viewBox="0 0 320 180" preserveAspectRatio="xMidYMid slice"><rect width="320" height="180" fill="' + a + '"/><rect y="120" width="320" height="60" fill="' + b + '"/>' +
    marks[n - 1]() + '<text x="18" y="96" font-size="88" font-weight="700" fill="#fff">' + n + '</text><text x="20" y="160" font-size="22" fill="#fff">' + safe + '</text></svg>';
}

for (let n = 1; n <= 12; n++) for (const [row, verb] of [['pgmRow', 'take'], ['pvwRow', 'ready']]) {
  const b = document.createElement('button');
  b.dataset.n = n; b.onclick = () => op({ verb, input: n });
  $(row).append(b);
}
on('cut', 'click', () => op({ verb: 'cut' }));
on('mix', 'click', () => op({ verb: 'mix' }));
on('black', 'click', () => op({ verb: 'black', on: !last.blackWanted }));
on('rate', 'change', (e) => op({ verb: 'rate', frames: Number(e.target.value) }));
let last = {};
const toggle = (verb, field, n, on, text) => '<button aria-pressed="' + on + '"' + does({ verb, [field]: n, on: !on }) + '>' + safe(text) + '</button>';
draw = (s) => {
  last = s;
  // Input 10 is the layout: the boxes over black. A box of the layout itself is black.
  const layout = () => '<div class="layer" style="background:#000"></div>' + each(s.boxes, (b) => b.on ?
    '<div class="inset" style="left:' + b.x / 10 + '%;top:' + b.y / 10 + '%;width:' + b.size + '%">' + (b.source === 10 ? '' : picture(b.source, s.names[b.source - 1])) + '</div>' : '');
  const pic = (n) => n === 10 ? layout() : picture(n, s.names[n - 1]);
  const mix = s.mixed === null ? 0 : s.mixed / s.rate;
  const layers = (mix ? '<div class="layer" style="opacity:' + mix + '">' + pic(s.preview) + '</div>' : '') +
    each(s.keys, (k, n) => k.on ? '<div class="strap" style="bottom:' + (8 + n * 14) + '%">key ' + (n + 1) + ': ' + safe(s.names[k.source - 1]) + '</div>' : '') +
    (s.black ? '<div class="layer" style="background:#000;opacity:' + s.black / s.rate + '"></div>' : '');
  show('pgm', s.power ? pic(s.program) + layers : '');
  show('pvw', s.power ? pic(s.preview) : '');
  $('pgmName').textContent = s.program + ' ' + s.names[s.program - 1];
  $('pvwName').textContent = s.preview + ' ' + s.names[s.preview - 1];
  $('black').setAttribute('aria-pressed', String(s.blackWanted));
  if (document.activeElement !== $('rate')) $('rate').value = s.rate;
  for (const b of document.querySelectorAll('.row button')) {
    const n = Number(b.dataset.n), bus = b.parentElement.id === 'pgmRow' ? s.program : s.preview;
    b.textContent = n + ' ' + s.names[n - 1];
    b.setAttribute('aria-pressed', String(bus === n));
  }
  show('keys', each(s.keys, (k, n) => toggle('key', 'key', n + 1, k.on, 'Key ' + (n + 1) + ': ' + s.names[k.source - 1])));
  show('boxes', each(s.boxes, (b, n) => toggle('box', 'box', n + 1, b.on, 'Box ' + (n + 1) + ': ' + s.names[b.source - 1])));
  show('stills', each(s.stills, (p, n) => '<p>Store ' + (n + 1) + ': ' + safe(s.pictures[p - 1].name) + (s.pictures[p - 1].alpha ? ', fill and alpha' : ', fill only') + '</p>'));
  show('macros', each(s.macros, (m, n) => '<button aria-pressed="' + (s.macro?.running === n + 1) + '"' + does({ verb: 'macro', macro: n + 1 }) + '>' + safe(m) + '</button>'));
  show('aux', each(s.aux, (i, n) => '<p>Aux ' + (n + 1) + ': ' + i + ' ' + safe(s.names[i - 1]) + '</p>'));
};
`;
