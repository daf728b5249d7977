/** What a composer shows and has running. */

export const composerCss = `.cols { display: grid; grid-template-columns: 3fr 2fr; gap: 24px; margin-top: 20px; } @media (max-width: 700px) { .cols { grid-template-columns: 1fr; } } .board { display: grid; place-content: center; text-align: center; background: #31434a; font-size: 30px; } .board[data-mixing=true] { background: linear-gradient(100deg, #31434a 40%, #4d3a33 60%); } .strip { position: absolute; left: 6%; bottom: 8%; background: #e9dcc7; color: #1d1712; padding: 4px 14px; font-size: 16px; } .frozen { color: #ffb86b; }`;

export const composerBody = `<div class="cols"><div><div class="screen board" id="board"></div><div class="acts" id="boards"></div><div class="acts"><button id="go">Go to the next board</button><span id="how" class="soft"></span></div>
  <dl id="facts"></dl></div>
  <div><h2>Feeds</h2><div id="feeds"></div><h2>Overlays and filters</h2><div class="acts" id="layers"></div><h2>Sound</h2><div id="sound"></div><h2>Programs</h2><div class="acts" id="programs"></div></div></div>`;

export const composerScript = `
const call = (method, params = {}) => ({ verb: 'call', method, params });
on('go', 'click', () => op(call('board.go')));
draw = (s) => {
  const strips = s.place.overlays.filter((_, n) => s.overlays[n]).join(' · ');
  $('board').dataset.mixing = s.mixing;
  show('board', '<div>' + safe(s.place.boards[s.current - 1]) + '</div>' + (strips ? '<div class="strip">' + safe(strips) + '</div>' : ''));
  $('how').textContent = s.transition + ', ' + s.ms + ' ms';
  show('boards', each(s.place.boards, (b, n) => '<button aria-pressed="' + (s.current === n + 1) + '"' + does(call('board.show', { board: n + 1 })) + '>' + safe(b) + (s.next === n + 1 ? ' (next)' : '') + '</button>'));
  show('feeds', each(s.place.feeds, (f, n) => '<div class="acts"><b>' + safe(f.name) + '</b><span class="' + s.feeds[n] + '">' + f.kind + ', ' + s.feeds[n] + '</span><button' + does(call('feed', { feed: n + 1, on: s.feeds[n] === 'off' })) + '>' + (s.feeds[n] === 'off' ? 'On' : 'Off') + '</button>' + (f.kind === 'camera' ? '<button' + does({ verb: 'freeze', feed: n + 1 }) + '>Freeze it</button>' : '') + '</div>'));
  show('layers', each(s.place.overlays, (o, n) => '<button aria-pressed="' + s.overlays[n] + '"' + does(call('overlay', { overlay: n + 1, on: !s.overlays[n] })) + '>' + safe(o) + '</button>') + each(s.place.filters, (f, n) => '<button aria-pressed="' + s.filters[n] + '"' + does(call('filter', { filter: n + 1, on: !s.filters[n] })) + '>' + safe(f.name) + '</button>'));
  show('sound', each(s.place.channels, (c, n) => '<div class="acts"><b>' + safe(c) + '</b><span>' + s.channels[n].db + ' dB</span><button' + does(call('channel.tick', { channel: n + 1, by: -1 })) + '>−</button><button' + does(call('channel.tick', { channel: n + 1, by: 1 })) + '>+</button><button aria-pressed="' + s.channels[n].mute + '"' + does(call('channel.mute', { channel: n + 1, on: !s.channels[n].mute })) + '>Mute</button></div>') + '<div class="acts">' + each(s.place.effects, (e) => '<button aria-pressed="' + (s.effect === e) + '"' + does(call('effect.play', { name: e })) + '>' + safe(e) + '</button>') + '</div>');
  show('programs', each(s.place.programs, (p, n) => '<button' + does(s.programs[n] === 'off' ? call('program.start', { program: n + 1 }) : { verb: 'close', program: n + 1 }) + '>' + safe(p) + ': ' + s.programs[n] + '</button>'));
  show('facts', each([['Stream', s.stream + (s.stream === 'on' ? ', ' + clock(s.streamSeconds) : '')], ['Recording', s.record ? clock(s.recordSeconds) : 'off'], ['Virtual camera', s.camera ? 'on' : 'off'], ['Dropped frames', s.dropped], ['Disk left', s.freeGb.toFixed(1) + ' GB']], ([k, v]) => '<dt>' + k + '</dt><dd>' + v + '</dd>') + '<dt></dt><dd class="acts"><button' + does(call('stream', { on: s.stream === 'off' })) + '>' + (s.stream === 'off' ? 'Start stream' : 'Stop stream') + '</button><button' + does(call('record', { on: !s.record })) + '>' + (s.record ? 'Stop recording' : 'Record') + '</button><button' + does({ verb: 'lose', frames: 25 }) + '>Lose 25 frames</button></dd>');
};`;
