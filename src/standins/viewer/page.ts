/** The monitors of a wall viewer. */

export const viewerCss = `.wall { display: grid; grid-template-columns: repeat(auto-fit, minmax(240px, 1fr)); gap: 16px; margin-top: 20px; } .mon { aspect-ratio: 16 / 9; background: #000; border: 6px solid #2a2e32; display: grid; place-content: center; text-align: center; } .mon.window div { border: 2px solid #c9b79c; padding: 12px 20px; background: #31434a; } .mon.full { background: #31434a; }`;

export const viewerBody = `<div class="wall" id="wall"></div><p id="group" class="soft"></p><div class="acts"><button id="clear">Turn all off</button></div>`;

export const viewerScript = `
const set = (pairs) => ({ verb: 'set', query: new URLSearchParams(pairs).toString() });
on('clear', 'click', () => op(set({ at: 'all', mode: 'off' })));
draw = (s) => {
  show('wall', each(s.monitors, (m, n) => '<div><div class="mon ' + m.mode + '"><div>' + safe(m.mode === 'off' ? '' : m.source || 'no source') + '</div></div><p><b>' + (n + 1) + ' ' + safe(m.name) + '</b> ' + m.mode + ', volume ' + m.volume + (m.inGroup ? ', in the group' : '') + '</p><div class="acts">' + each(['full', 'window', 'off'], (k) => '<button aria-pressed="' + (m.mode === k) + '"' + does(set({ at: n + 1, mode: k })) + '>' + k[0].toUpperCase() + k.slice(1) + '</button>') + '<button' + does(set({ at: n + 1, source: s.sources[(s.sources.indexOf(m.source) + 1) % s.sources.length] })) + '>Next source</button></div></div>'));
  $('group').textContent = 'The group shows ' + (s.group || 'nothing') + '.';
};`;
