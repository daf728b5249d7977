/** What the audience of the clock machine sees, and its list. */

export const clockCss = `.face { display: grid; place-content: center; justify-items: center; text-align: center; gap: 8px; padding: 24px; } .face p { margin: 0; } .big { font: 700 96px/1 monospace; } .face[data-state=over] { background: #e9dcc7; color: #1d1712; } .face[data-state=warning] .big { color: #e2a03a; } .face[data-state=paused] .big { opacity: .6; } .cols { display: grid; grid-template-columns: minmax(0, 5fr) minmax(0, 6fr); gap: 24px; margin-top: 20px; } @media (max-width: 700px) { .cols { grid-template-columns: 1fr; } .big { font-size: 60px; } } td button { white-space: nowrap; } .cols > table td { vertical-align: middle; } .dot { display: inline-block; width: 10px; height: 10px; margin-right: 6px; }`;

export const clockBody = `<div class="cols"><div><div class="screen face" id="face"><p id="name"></p><div class="big" id="left"></div><p id="state"></p><p id="message"></p></div>
  <div class="acts"><button id="startNext">Start next</button><button id="pause">Pause</button><button id="resume">Resume</button><button id="restart">Restart</button><button id="stop">End</button><button id="more">Add 1 min</button><button id="less">Remove 1 min</button></div>
  <div class="acts"><button id="key1">Key 1</button><button id="key2">Key 2</button><button id="key3">Key 3</button><button id="key4">Key 4</button></div>
  <div class="acts"><label>Message <input id="text" maxlength="120"></label><button id="say">Show</button></div></div>
  <table><thead><tr><th>Timer</th><th>Name</th><th>Speaker</th><th>Length</th><th></th></tr></thead><tbody id="list"></tbody></table></div>`;

export const clockScript = `
let last = { left: 0, at: 0, runs: false };
for (const verb of ['startNext', 'pause', 'resume', 'restart', 'stop']) on(verb, 'click', () => op({ verb }));
for (const key of [1, 2, 3, 4]) on('key' + key, 'click', () => op({ verb: 'key', key }));
on('more', 'click', () => op({ verb: 'add', seconds: 60 }));
on('less', 'click', () => op({ verb: 'add', seconds: -60 }));
on('say', 'click', () => op({ verb: 'message', text: $('text').value }));
const count = () => {
  const left = last.runs ? last.left - (performance.now() - last.at) / 1000 : last.left;
  $('left').textContent = (left < 0 ? '+' : '') + clock(Math.floor(Math.abs(left)));
};
setInterval(count, 200);
draw = (s) => {
  last = { left: s.left, at: performance.now(), runs: s.runs };
  count();
  $('face').dataset.state = s.state;
  $('name').textContent = s.shown + (s.speaker ? ', ' + s.speaker : ''); $('state').textContent = s.state + (s.nextName && s.state !== 'ready' ? ' · next ' + s.nextName : ''); $('message').textContent = s.message;
  show('list', each(s.timers, (t, n) => '<tr aria-current="' + (s.place === n + 1) + '"><td><button' + does({ verb: 'start', place: n + 1 }) + '>' + (n + 1) + '</button></td><td><i class="dot" style="background:' + safe(t.colour || '#666') + '"></i>' + safe(t.name) + (s.next === n + 1 ? ' <b>next</b>' : '') + '</td><td>' + safe(t.speaker) + '</td><td>' + clock(t.lengthS) + '</td><td><button' + does({ verb: 'next', place: n + 1 }) + '>Set next</button></td></tr>'));
};`;
