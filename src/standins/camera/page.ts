import { menuLines } from './menu';
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
    <div><div class="screen"><div id="picture"></div><span id="lamp"></span></div>
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
  const blur = (focusAuto ? 0 : Math.abs(focus - 2048) / 512) + Math.max(0, 6 - state.picture.sharpness) * 0.15;
  const box = [x, y, width, height].map((n) => n.toFixed(1)).join(' ');
  const name = scene.replace(/[<>&"]/g, '');
  const bank =
    '<rect x="-900" y="-400" width="4000" height="680" fill="#9db4c0"/><rect x="-900" y="280" width="4000" height="900" fill="#4d6a72"/>' +
    `<rect x="-900" y="268" width="4000" height="14" fill="#5c6b3f"/>${trees.join('')}${houses}${boats.join('')}` +
    '<rect x="1190" y="282" width="6" height="230" fill="#fff" opacity=".6"/>';
  const view = `<svg width="1280" height="720" viewBox="${box}" preserveAspectRatio="xMidYMid slice">${bank}</svg>`;
  const seen = `<defs>${lookOf(state, (blur * 1280) / width)}</defs><g filter="url(#look)"><g transform="${turned(state)}">${view}</g></g>`;
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="1280" height="720" role="img" aria-label="${name}" viewBox="0 0 1280 720">` +
    `${state.awake ? seen : standby}${state.awake && state.menu ? menuOf(state) : ''}</svg>`
  );
}

const standby =
  '<rect width="1280" height="720" fill="#000"/><text x="640" y="380" fill="#888" font-family="sans-serif" font-size="48" text-anchor="middle">standby</text>';

/** Mirrored, upside down, or both. */
function turned({ picture: { mirror, flip } }: CameraState): string {
  return `translate(${mirror === 1 ? 1280 : 0} ${flip === 1 ? 720 : 0}) scale(${mirror === 1 ? -1 : 1} ${flip === 1 ? -1 : 1})`;
}

/** How bright the picture is, 1 as it should be: what the camera sets by itself is right, what is set by hand is as bright as it is. */
function brightness({ exposure, iris, shutter, gain, backlight, picture }: CameraState): number {
  const stops =
    exposure === 'manual'
      ? (iris - 10) / 3 + (gain - 2) / 3 - (shutter - 6) / 3
      : exposure === 'bright'
        ? (picture.bright - 15) / 5
        : picture.exposureCompensation === 1
          ? (picture.exposureCompensationStep - 7) / 3
          : 0;
  return Math.min(4, Math.max(0.08, 2 ** stops * (backlight ? 1.25 : 1)));
}

/** How red and how blue the picture is, 1 as it should be: it is a fine day outside. */
function balance({ whiteBalance, picture }: CameraState): readonly [red: number, blue: number] {
  if (whiteBalance === 'indoor') return [0.72, 1.35];
  if (whiteBalance === 'manual') return [picture.redGain / 128, picture.blueGain / 128];
  return [1, 1];
}

/** The filter that makes the picture what is set at the camera. */
function lookOf(state: CameraState, blur: number): string {
  const { colourGain, colourHue, blackAndWhite } = state.picture;
  const light = brightness(state);
  const [red, blue] = balance(state).map((factor) => (factor * light).toFixed(3));
  const green = light.toFixed(3);
  return (
    '<filter id="look" x="0" y="0" width="100%" height="100%" color-interpolation-filters="sRGB">' +
    `<feColorMatrix values="${red} 0 0 0 0 0 ${green} 0 0 0 0 0 ${blue} 0 0 0 0 0 1 0"/>` +
    `<feColorMatrix type="saturate" values="${blackAndWhite === 1 ? 0 : (colourGain / 7).toFixed(2)}"/>` +
    `<feColorMatrix type="hueRotate" values="${(colourHue - 7) * 4}"/>` +
    `${blur > 0.05 ? `<feGaussianBlur stdDeviation="${blur.toFixed(1)}"/>` : ''}</filter>`
  );
}

function menuOf(state: CameraState): string {
  const rows = menuLines(state).map(({ text, at }, n) => {
    const y = 190 + n * 62;
    const mark =
      at === ''
        ? ''
        : `<rect x="170" y="${y - 44}" width="640" height="58" fill="${at === 'hand' ? '#c8a24a' : '#55606a'}"/>`;
    return `${mark}<text x="190" y="${y}" fill="${at === 'hand' ? '#111' : '#fff'}">${text}</text>`;
  });
  return `<g font-family="sans-serif" font-size="42"><rect x="150" y="80" width="680" height="340" fill="#0a0c0e" opacity=".88"/><text x="190" y="126" fill="#fff" font-weight="700">MENU</text>${rows.join('')}</g>`;
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
  $('lamp').textContent = s.tally ? 'ON AIR' : ''; $('lamp').style.visibility = s.tally ? 'visible' : 'hidden'; $('lamp').style.background = s.tally ? '#b3261e' : '#111';
  $('auto').setAttribute('aria-pressed', String(s.focusAuto)); $('menu').setAttribute('aria-pressed', String(s.menu));
  show('facts', each([['Looks at', s.scene], ['Pan', s.pan.toFixed(1) + '°'], ['Tilt', s.tilt.toFixed(1) + '°'], ['Zoom', Math.round(s.zoom / 163.84) + ' %'], ['Focus', s.focusAuto ? 'auto' : Math.round(s.focus)],
    ['Exposure', s.exposure], ['Iris, shutter, gain', s.iris + ', ' + s.shutter + ', ' + s.gain], ['White balance', s.whiteBalance], ['Backlight', s.backlight ? 'on' : 'off']],
    ([k, v]) => '<dt>' + k + '</dt><dd>' + safe(v) + '</dd>'));
  show('presets', each(s.presets, (p, n) => '<button ' + (p ? '' : 'disabled data-kept ') + does({ verb: 'recall', preset: n }) + '>' + n + '</button>'));
};
`;
