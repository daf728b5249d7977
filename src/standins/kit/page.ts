/** What a stand-in's page is made of besides the shell that all share. */
interface PageParts {
  readonly tag: string;
  readonly title: string;
  readonly css?: string;
  /** HTML of what it looks like and of its controls. */
  readonly body: string;
  /**
   * Script. `draw = (s) => …` is called with each state; `op({…})` operates it by hand; `show(id, html)` replaces a part if
   * it has changed; `on(id, event, act)` listens; `each(list, row)` joins; `safe(text)` escapes; `does({…})` is the
   * attribute of a button that operates it.
   */
  readonly script: string;
}

const faultFields = [
  ['refuse', 'Port closed'],
  ['hang', 'Says nothing'],
  ['garbage', 'Answers garbage'],
  ['otherPassword', 'Wants another password'],
  ['otherModel', 'Is another model'],
  ['taken', 'Held by another controller'],
] as const;

/** A stand-in's own page: what it looks like from outside, its controls, and its faults. Plain HTML, no build step. */
export const standinPage = ({ tag, title, css = '', body, script }: PageParts): string => `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${tag} · ${title} (stand-in)</title>
<style>
  :root { color-scheme: dark; --line: #3a3f44; --soft: #a3abb3; --field: #2a2e32; }
  * { box-sizing: border-box; }
  body { margin: 0; background: #16181a; color: #e6e8ea; font: 15px/1.4 sans-serif; }
  main { max-width: 1120px; margin: 0 auto; padding: 20px; }
  header { display: flex; flex-wrap: wrap; align-items: baseline; gap: 4px 16px; border-bottom: 1px solid var(--line); padding-bottom: 10px; }
  h1 { font-size: 18px; margin: 0; } header p { margin: 0; color: var(--soft); } header .right { margin-left: auto; }
  h2 { font-size: 15px; margin: 22px 0 8px; }
  button, select, input { font: inherit; background: var(--field); color: inherit; border: 1px solid #4a5056; min-height: 40px; padding: 4px 12px; }
  button { cursor: pointer; } input { background: #16181a; } input[type=checkbox] { min-height: 0; width: 18px; height: 18px; margin: 0 8px 0 0; vertical-align: -3px; }
  :is(button, select, input, a):focus-visible { outline: 3px solid #7cb8ff; outline-offset: 1px; }
  button[aria-pressed=true] { background: #e6e8ea; color: #111; font-weight: 700; }
  button:disabled { opacity: .4; }
  .acts { display: flex; flex-wrap: wrap; gap: 10px; margin: 12px 0; align-items: center; }
  .screen { position: relative; aspect-ratio: 16 / 9; background: #000; overflow: hidden; border: 1px solid var(--line); }
  .screen svg { position: absolute; inset: 0; width: 100%; height: 100%; }
  dl { display: grid; grid-template-columns: max-content 1fr; gap: 4px 16px; margin: 12px 0; } dt { color: var(--soft); } dd { margin: 0; }
  table { border-collapse: collapse; width: 100%; } th, td { text-align: left; padding: 6px 10px; border-bottom: 1px solid var(--line); } th { color: var(--soft); font-weight: 400; }
  tr[aria-current=true] { background: var(--field); }
  details { margin-top: 28px; border-top: 1px solid var(--line); padding-top: 12px; } summary { cursor: pointer; min-height: 30px; }
  .faults { display: grid; grid-template-columns: repeat(auto-fill, minmax(220px, 1fr)); gap: 10px 16px; margin-top: 10px; }
  .faults input[type=number] { width: 7em; }
  .soft { color: var(--soft); } .off { opacity: .25; } #said { min-height: 1.4em; color: #ffb86b; }
  ${css}
</style>
</head>
<body><main>
  <header><h1>${tag} · ${title}</h1><p>a stand-in</p><p class="right" id="line"></p></header>
  <div id="desk">${body}</div>
  <p id="said" role="status"></p>
  <div class="acts"><button id="power"></button><button id="drop">Break all connections</button></div>
  <details id="faults"><summary>Make it misbehave</summary><div class="faults">
    ${faultFields.map(([key, label]) => `<label><input type="checkbox" data-fault="${key}">${label}</label>`).join('')}
    <label>Late by <input type="number" data-fault="delayMs" min="0" max="60000"> ms</label>
    <label>Loses <input type="number" data-fault="lossPercent" min="0" max="100"> %</label>
    <label>Port <input type="number" id="move" min="1" max="65535"> <button id="moveTo">Move there</button></label>
  </div></details>
</main>
<script>
const $ = (id) => document.getElementById(id);
const safe = (text) => String(text).replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' }[c]));
const each = (list, row) => list.map(row).join('');
const shown = {};
function show(id, html) { if (shown[id] !== html) { shown[id] = html; $(id).innerHTML = html; } }
function on(id, event, act) { $(id).addEventListener(event, act); }
async function post(verb, body) {
  const res = await fetch('/${tag.toLowerCase()}/' + verb, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
  $('said').textContent = res.ok ? '' : 'Refused: ' + (await res.json()).error.message;
}
const op = (body) => post('operate', body);
// What an element does when it is clicked, or with its value when that changes, as an attribute.
const does = (order) => ' data-op="' + safe(JSON.stringify(order)) + '"';
document.addEventListener('click', (e) => {
  const target = e.target.closest('button[data-op]');
  if (target) op(JSON.parse(target.dataset.op));
});
document.addEventListener('change', (e) => {
  if (e.target.dataset.field) op({ ...JSON.parse(e.target.dataset.op), [e.target.dataset.field]: Number(e.target.value) });
});
const pad = (n, digits = 2) => String(n).padStart(digits, '0');
const clock = (seconds) => Math.floor(seconds / 3600) + ':' + pad(Math.floor(seconds / 60) % 60) + ':' + pad(Math.floor(seconds) % 60);
let draw = () => {};
let power = true;
on('power', 'click', () => post('power', { on: !power }));
on('drop', 'click', () => post('drop', {}));
on('moveTo', 'click', () => post('move', { port: Number($('move').value) }));
for (const field of document.querySelectorAll('[data-fault]')) field.addEventListener('change', () =>
  post('faults', { [field.dataset.fault]: field.type === 'checkbox' ? field.checked : Number(field.value) }));
${script}
new EventSource('/${tag.toLowerCase()}/events').onmessage = (event) => {
  const s = JSON.parse(event.data);
  power = s.power;
  $('desk').className = s.power ? '' : 'off';
  $('power').textContent = s.power ? 'Switch off' : 'Switch on';
  const troubles = Object.values(s.faults).filter(Boolean).length;
  $('line').textContent = (s.power ? 'address 127.0.0.1, port ' + s.port + ' · ' + s.controllers + ' connected' : 'switched off') + (troubles ? ' · misbehaves' : '');
  for (const field of document.querySelectorAll('[data-fault]')) if (document.activeElement !== field) {
    if (field.type === 'checkbox') field.checked = s.faults[field.dataset.fault]; else field.value = s.faults[field.dataset.fault];
  }
  if (document.activeElement !== $('move')) $('move').value = s.port;
  for (const b of document.querySelectorAll('#desk button, #desk select, #desk input')) if (!s.power) b.disabled = true;
    else if (b.dataset.kept === undefined) b.disabled = false;
  draw(s);
};
</script>
</body></html>`;
