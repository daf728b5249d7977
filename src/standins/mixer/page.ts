/** The mixer's page: strips with meters, faders and mutes. */

export const mixerCss = `
  .desk { display: grid; grid-template-columns: repeat(13, minmax(64px, 1fr)); gap: 8px; margin: 24px 0; overflow-x: auto; }
  .strip { text-align: center; font-size: 12px; } .strip p { margin: 4px 0; min-height: 34px; overflow-wrap: anywhere; }
  .well { position: relative; height: 220px; width: 26px; margin: 0 auto; background: #000; border: 1px solid var(--line); }
  .well i { position: absolute; left: 0; right: 0; bottom: 0; background: #c9b79c; } .well b { position: absolute; left: -6px; right: -6px; height: 3px; background: #e6e8ea; }
  .strip button { width: 100%; padding: 2px; } .strip input { width: 100%; min-height: 30px; padding: 2px; }
`;
export const mixerBody = `<div class="desk" id="strips"></div><h2>Stored settings</h2><div class="acts" id="scenes"></div>`;
export const mixerScript = `
const place = (db) => Math.max(0, (db + 60) / 70 * 100);
let made = false;
draw = (s) => {
  const all = [...s.strips, { name: 'Main', level: s.main.level, muted: s.main.muted }];
  if (!made) {
    made = true;
    show('strips', each(all, (t, n) => '<div class="strip"><p id="n' + n + '"></p><div class="well"><i id="m' + n + '"></i><b id="f' + n + '"></b></div><p id="l' + n + '"></p>' +
      (n < 12 ? '<input type="number" step="1" min="-90" max="10" id="i' + n + '" aria-label="Level of strip ' + (n + 1) + '"><button id="b' + n + '">Mute</button>' : '') + '</div>'));
    s.strips.forEach((t, n) => {
      on('b' + n, 'click', () => op({ verb: 'mute', strip: n + 1, on: $('b' + n).getAttribute('aria-pressed') !== 'true' }));
      on('i' + n, 'change', (e) => op({ verb: 'level', strip: n + 1, level: Number(e.target.value) }));
    });
  }
  all.forEach((t, n) => {
    $('n' + n).textContent = t.name; $('l' + n).textContent = t.level.toFixed(1) + ' dB';
    $('m' + n).style.height = place(s.meters[n]) + '%'; $('f' + n).style.bottom = place(t.level) + '%';
    if (n < 12) { $('b' + n).setAttribute('aria-pressed', String(t.muted)); if (document.activeElement !== $('i' + n)) $('i' + n).value = Math.round(t.level); }
  });
  show('scenes', each(s.scenes, (c, n) => '<button ' + (c.strips ? '' : 'disabled data-kept ') + 'aria-pressed="' + (s.lastScene === n + 1) + '"' + does({ verb: 'recall', scene: n + 1 }) + '>' + (n + 1) + ' ' + safe(c.name || 'empty') + '</button>'));
};`;
