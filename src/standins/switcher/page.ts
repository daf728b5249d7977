/** The switcher's own page: its two outputs as drawn test pictures, and its buttons. Plain HTML, no build step. */
export const switcherPage = (tag: string): string => `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${tag} · vision switcher (stand-in)</title>
<style>
  :root { color-scheme: dark; }
  * { box-sizing: border-box; }
  body { margin: 0; background: #16181a; color: #e6e8ea; font: 15px/1.4 sans-serif; }
  main { max-width: 1120px; margin: 0 auto; padding: 20px; }
  header { display: flex; align-items: baseline; gap: 16px; border-bottom: 1px solid #3a3f44; padding-bottom: 10px; }
  h1 { font-size: 18px; margin: 0; } header p { margin: 0; color: #a3abb3; } header .right { margin-left: auto; }
  .outputs { display: grid; grid-template-columns: 1fr 1fr; gap: 20px; margin: 20px 0; }
  figure { margin: 0; } figcaption { display: flex; justify-content: space-between; padding: 6px 0; }
  .screen { position: relative; aspect-ratio: 16 / 9; background: #000; overflow: hidden; border: 1px solid #3a3f44; }
  .screen svg { position: absolute; inset: 0; width: 100%; height: 100%; }
  .row { display: grid; grid-template-columns: 90px repeat(12, 1fr); gap: 6px; margin-bottom: 8px; align-items: stretch; }
  .row > span { align-self: center; color: #a3abb3; }
  button { font: inherit; min-height: 46px; padding: 4px; background: #2a2e32; color: inherit; border: 1px solid #4a5056; cursor: pointer; }
  .row button { font-size: 12px; overflow-wrap: anywhere; }
  button:focus-visible { outline: 3px solid #7cb8ff; outline-offset: 1px; }
  button[aria-pressed=true] { background: #e6e8ea; color: #111; font-weight: 700; }
  .acts { display: flex; gap: 10px; margin: 16px 0; align-items: center; } .acts button { padding: 4px 22px; }
  .off { opacity: .25; } #said { min-height: 1.4em; color: #ffb86b; } input { font: inherit; width: 5em; background: #16181a; color: inherit; border: 1px solid #4a5056; padding: 8px; }
</style>
</head>
<body><main>
  <header><h1>${tag} · vision switcher</h1><p>a stand-in</p><p class="right" id="line"></p></header>
  <div id="desk">
    <div class="outputs">
      <figure><div class="screen" id="pgm"></div><figcaption><b>Program</b><span id="pgmName"></span></figcaption></figure>
      <figure><div class="screen" id="pvw"></div><figcaption><b>Preview</b><span id="pvwName"></span></figcaption></figure>
    </div>
    <div class="row" id="pgmRow" role="group" aria-label="Program"><span>Program</span></div>
    <div class="row" id="pvwRow" role="group" aria-label="Preview"><span>Preview</span></div>
    <div class="acts"><button id="cut">Cut</button><button id="mix">Mix</button>
      <label>Mix takes <input id="rate" type="number" min="1" max="250"> frames</label></div>
  </div>
  <div class="acts"><button id="power"></button><button id="drop">Break all connections</button></div>
  <p id="said" role="status"></p>
</main>
<script>
const $ = (id) => document.getElementById(id);
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
const shown = {};
function show(id, html) { if (shown[id] !== html) { shown[id] = html; $(id).innerHTML = html; } }
async function post(verb, body) {
  const res = await fetch('/${tag.toLowerCase()}/' + verb, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
  $('said').textContent = res.ok ? '' : 'Refused: ' + (await res.json()).error;
}
for (let n = 1; n <= 12; n++) for (const [row, verb] of [['pgmRow', 'take'], ['pvwRow', 'ready']]) {
  const b = document.createElement('button');
  b.dataset.n = n; b.onclick = () => post('operate', { verb, input: n });
  $(row).append(b);
}
$('cut').onclick = () => post('operate', { verb: 'cut' });
$('mix').onclick = () => post('operate', { verb: 'mix' });
$('rate').onchange = (e) => post('operate', { verb: 'rate', frames: Number(e.target.value) });
$('power').onclick = () => post('power', { on: !power });
$('drop').onclick = () => post('drop', {});
let power = true;
new EventSource('/${tag.toLowerCase()}/events').onmessage = (event) => {
  const s = JSON.parse(event.data);
  power = s.power;
  $('desk').className = s.power ? '' : 'off';
  $('power').textContent = s.power ? 'Switch off' : 'Switch on';
  $('line').textContent = s.power ? 'address 127.0.0.1, port ' + s.port + ' · ' + s.controllers + ' connected' : 'switched off';
  const mix = s.mixed === null ? 0 : s.mixed / s.rate;
  show('pgm', s.power ? picture(s.program, s.names[s.program - 1]) + (mix ? '<div style="position:absolute;inset:0;opacity:' + mix + '">' + picture(s.preview, s.names[s.preview - 1]) + '</div>' : '') : '');
  show('pvw', s.power ? picture(s.preview, s.names[s.preview - 1]) : '');
  $('pgmName').textContent = s.program + ' ' + s.names[s.program - 1];
  $('pvwName').textContent = s.preview + ' ' + s.names[s.preview - 1];
  if (document.activeElement !== $('rate')) $('rate').value = s.rate;
  for (const b of document.querySelectorAll('.row button')) {
    const n = Number(b.dataset.n), bus = b.parentElement.id === 'pgmRow' ? s.program : s.preview;
    b.textContent = n + ' ' + s.names[n - 1];
    b.setAttribute('aria-pressed', String(bus === n));
    b.disabled = !s.power;
  }
  $('cut').disabled = $('mix').disabled = $('rate').disabled = !s.power;
};
</script>
</body></html>`;
