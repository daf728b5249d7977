import { templates, type TitlesState } from './model';

/** The title machine's output, drawn, and its layers. */

export const titlesCss = `.cols { display: grid; grid-template-columns: 3fr 2fr; gap: 24px; margin-top: 20px; } @media (max-width: 700px) { .cols { grid-template-columns: 1fr; } }`;
export const titlesBody = `<div class="cols"><div><div class="screen" id="picture"></div><h2>Layers</h2><div id="layers"></div></div>
  <div><h2>Table</h2><table><thead><tr><th>Row</th><th>Crew</th><th>Club</th></tr></thead><tbody id="table"></tbody></table><p class="soft" id="ran"></p></div></div>`;
export const titlesScript = `
let busy = false;
async function look() {
  if (busy) return;
  busy = true;
  const picture = await fetch(location.pathname + '/still').then((r) => r.text()).catch(() => '');
  busy = false;
  show('picture', picture);
}
draw = (s) => {
  look();
  show('layers', each(s.layers, (l, n) => '<div class="acts"><b>Layer ' + (n + 1) + '</b><span>' + (l.template ? safe(s.templates[l.template - 1].name) + ', ' : '') + l.state + '</span>' +
    '<select aria-label="Template of layer ' + (n + 1) + '" data-field="template"' + does({ verb: 'load', layer: n + 1 }) + '><option value="0">load</option>' + each(s.templates, (t, i) => '<option value="' + (i + 1) + '"' + (l.template === i + 1 ? ' selected' : '') + '>' + safe(t.name) + '</option>') + '</select>' +
    each(['take', 'out', 'next'], (v) => '<button' + does({ verb: v, layer: n + 1 }) + '>' + v + '</button>') + '</div>'));
  show('table', each(s.table, (r, n) => '<tr aria-current="' + s.layers.some((l) => l.row === n + 1) + '"><td>' + (n + 1) + '</td><td>' + safe(r[0]) + '</td><td>' + safe(r[1]) + '</td></tr>'));
  $('ran').textContent = s.lastFunction ? 'Last function: ' + s.functions[s.lastFunction - 1] : '';
};`;

const places = ['x="60" y="520" width="620"', 'x="60" y="80" width="520"', 'x="900" y="60" width="320"'] as const;
const safe = (text: string): string => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);

/** What goes out: the layers that are on, over a plain ground where a picture would be. */
export function titlesStill({ layers }: TitlesState): string {
  const drawn = layers.map(({ state, template, texts }, n) => {
    if (state === 'empty' || state === 'ready') return '';
    const lines = [templates[template - 1]?.name ?? '', ...texts.filter((text) => text !== '')];
    const height = 44 + lines.length * 34;
    const rows = lines.map(
      (line, at) =>
        `<text x="24" y="${40 + at * 34}" font-size="${at === 0 ? 18 : 28}" fill="#1d1712">${safe(line)}</text>`,
    );
    const [, x = '0', y = '0'] = /x="(\d+)" y="(\d+)"/.exec(places[n] ?? '') ?? [];
    return `<g opacity="${state === 'on' ? 1 : 0.5}" transform="translate(${x} ${y})" font-family="sans-serif"><rect width="${n === 2 ? 320 : 600}" height="${height}" fill="#e9dcc7"/><rect width="8" height="${height}" fill="#8a4b2f"/>${rows.join('')}</g>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="1280" height="720" viewBox="0 0 1280 720" role="img" aria-label="The output of the title machine"><rect width="1280" height="720" fill="#3d5a63"/><path d="M0 560Q320 520 640 560T1280 560V720H0Z" fill="#2f474f"/>${drawn.join('')}</svg>`;
}
