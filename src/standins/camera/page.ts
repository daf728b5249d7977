import type { CameraState } from './model';

/** What the camera sees, drawn: a view that pans, tilts and zooms over a made-up river bank. */

export const cameraCss = `
  .view { display: grid; grid-template-columns: minmax(0, 2fr) minmax(0, 1fr); gap: 20px; margin-top: 20px; align-items: start; }
  .pad { display: grid; grid-template-columns: repeat(3, 68px); gap: 6px; }
  #lamp { position: absolute; right: 10px; top: 10px; width: 90px; text-align: center; background: #111; padding: 2px 6px; font-weight: 700; }
  @media (max-width: 700px) { .view { grid-template-columns: 1fr; } }
`;

export const cameraBody = `
  <div class="view">
    <div><div class="screen"><div id="picture"></div><div id="overlay"></div><span id="lamp"></span></div>
      <p class="soft">A still of this view is at <a id="stillLink" style="color:inherit">…</a>.</p></div>
    <div>
      <div class="pad" role="group" aria-label="Pan and tilt">
        <span></span><button data-move="0 8">up</button><span></span>
        <button data-move="-8 0">left</button><button id="halt">halt</button><button data-move="8 0">right</button>
        <span></span><button data-move="0 -8">down</button><span></span>
      </div>
      <div class="acts"><button id="wide">Wide</button><button id="tele">Tele</button><button id="auto">Auto focus</button><button id="menu">Menu</button></div>
      <dl id="facts"></dl>
    </div>
  </div>
  <h2>Presets</h2><div class="acts" id="presets"></div>
`;

/** The view as SVG: a river bank with crews, a tower and a boathouse; `x` and `y` are where it looks, `width` how much it sees. */
export function cameraStill(scene: string, state: CameraState): string {
  const { pan, tilt, zoom, focus, focusAuto } = state;
  const width = 640 / (1 + (9 * zoom) / 16384);
  const height = (width * 9) / 16;
  const x = 1000 + pan * 5 - width / 2;
  const y = 300 - tilt * 4 - height / 2;
  const crew = (i: number) =>
    [0, 1, 2, 3]
      .map((k) => 24 + k * 24)
      .map(
        (at) =>
          `<circle cx="${at}" cy="-5" r="4" fill="#e8dcc8"/><path d="M${at} 0l-8 18" stroke="#e8dcc8" stroke-width="1.5"/>`,
      )
      .join('') + `<rect width="120" height="5" fill="hsl(${i * 57} 45% 60%)"/>`;
  const boats = [0, 1, 2, 3, 4, 5].map(
    (i) => `<g transform="translate(${820 + i * 46} ${330 + i * 17})">${crew(i)}</g>`,
  );
  const trees = Array.from({ length: 60 }, (_, i) => {
    const place = `cx="${i * 37}" cy="${262 - ((i * 7919) % 23)}" r="${16 + ((i * 31) % 14)}"`;
    return `<circle ${place} fill="hsl(${95 + ((i * 13) % 40)} 25% ${22 + ((i * 17) % 12)}%)"/>`;
  });
  const houses =
    '<rect x="1180" y="170" width="26" height="110" fill="#b9a88c"/><rect x="1168" y="150" width="50" height="26" fill="#8d6f4e"/>' +
    '<rect x="700" y="236" width="90" height="44" fill="#6d5a49"/><path d="M690 236h110l-55-34z" fill="#84543f"/>';
  const blur = focusAuto ? 0 : Math.abs(focus - 2048) / 512;
  const box = [x, y, width, height].map((n) => n.toFixed(1)).join(' ');
  const name = scene.replace(/[<>&"]/g, '');
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="1280" height="720" role="img" aria-label="${name}" viewBox="${box}" preserveAspectRatio="xMidYMid slice">` +
    `<g${blur > 0 ? ` style="filter:blur(${blur.toFixed(1)}px)"` : ''}>` +
    '<rect x="-900" y="-400" width="4000" height="680" fill="#9db4c0"/><rect x="-900" y="280" width="4000" height="900" fill="#4d6a72"/>' +
    `<rect x="-900" y="268" width="4000" height="14" fill="#5c6b3f"/>${trees.join('')}${houses}${boats.join('')}` +
    '<rect x="1190" y="282" width="6" height="230" fill="#fff" opacity=".6"/></g></svg>'
  );
}

export const cameraScript = `
$('stillLink').href = location.pathname + '/still'; $('stillLink').textContent = location.pathname + '/still';
for (const b of document.querySelectorAll('[data-move]')) {
  const [pan, tilt] = b.dataset.move.split(' ').map(Number);
  b.addEventListener('pointerdown', () => op({ verb: 'move', pan, tilt }));
  for (const end of ['pointerup', 'pointerleave', 'pointercancel']) b.addEventListener(end, () => op({ verb: 'move' }));
}
for (const [id, zoom] of [['wide', -4], ['tele', 4]]) {
  on(id, 'pointerdown', () => op({ verb: 'move', zoom }));
  for (const end of ['pointerup', 'pointerleave']) on(id, end, () => op({ verb: 'move' }));
}
on('halt', 'click', () => op({ verb: 'move' }));
on('auto', 'click', () => op({ verb: 'focus', auto: !last.focusAuto }));
on('menu', 'click', () => op({ verb: 'menu', on: !last.menu }));
let last = {}, busy = false;
async function look() {
  if (busy) return;
  busy = true;
  const picture = await fetch(location.pathname + '/still').then((r) => r.text()).catch(() => '');
  busy = false;
  show('picture', picture);
}
draw = (s) => {
  last = s;
  look();
  show('overlay', (s.menu ? '<div style="position:absolute;left:12%;top:14%;padding:14px 22px;background:#0a0c0ed9"><b>MENU</b><br>1 Exposure ' + s.exposure + '<br>2 White balance ' + s.whiteBalance + '<br>3 Exit</div>' : ''));
  $('lamp').textContent = s.tally ? 'ON AIR' : ''; $('lamp').style.visibility = s.tally ? 'visible' : 'hidden'; $('lamp').style.background = s.tally ? '#b3261e' : '#111';
  $('auto').setAttribute('aria-pressed', String(s.focusAuto)); $('menu').setAttribute('aria-pressed', String(s.menu));
  show('facts', each([['Looks at', s.scene], ['Pan', s.pan.toFixed(1) + '°'], ['Tilt', s.tilt.toFixed(1) + '°'], ['Zoom', Math.round(s.zoom / 163.84) + ' %'], ['Focus', s.focusAuto ? 'auto' : Math.round(s.focus)],
    ['Exposure', s.exposure], ['Iris, shutter, gain', s.iris + ', ' + s.shutter + ', ' + s.gain], ['White balance', s.whiteBalance], ['Backlight', s.backlight ? 'on' : 'off']],
    ([k, v]) => '<dt>' + k + '</dt><dd>' + safe(v) + '</dd>'));
  show('presets', each(s.presets, (p, n) => '<button ' + (p ? '' : 'disabled data-kept ') + does({ verb: 'recall', preset: n }) + '>' + n + '</button>'));
};
`;
