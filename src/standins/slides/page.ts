/** What the audience and the talent see of the slide and clip machine. */

export const slidesCss = `.two { display: grid; grid-template-columns: 1fr 1fr; gap: 24px; margin-top: 20px; } @media (max-width: 700px) { .two { grid-template-columns: 1fr; } } .slide { display: grid; place-content: center; text-align: center; background: #3d5a63; font-size: 26px; } .title { position: absolute; left: 5%; bottom: 8%; background: #e9dcc7; color: #1d1712; padding: 4px 14px; font-size: 16px; text-align: left; } .talent { padding: 18px; align-content: start; display: grid; gap: 10px; background: #1d2023; } .talent b { font-size: 22px; } .note { background: #e9dcc7; color: #1d1712; padding: 6px 12px; font-size: 20px; }`;

export const slidesBody = `<div class="two"><div><h2>Audience</h2><div class="screen slide" id="audience"></div><div class="acts" id="decks"></div><div class="acts"><span class="soft">Slides</span><span class="acts" id="slides"></span></div><div class="acts"><button id="previous">Previous</button><button id="next">Next</button><button id="clear">Clear all</button></div><p id="set" class="soft"></p></div>
  <div><h2>Talent’s screen</h2><div class="screen talent" id="talent"></div><div class="acts"><label>Message <input id="text" maxlength="200"></label><button id="say">Show</button><button id="link"></button></div></div></div>
  <h2>Sound</h2><div class="acts" id="tracks"></div>`;

export const slidesScript = `
const call = (path, body = {}) => ({ verb: 'call', path: '/api/' + path, body });
let last = {};
for (const verb of ['previous', 'next']) on(verb, 'click', () => op(call(verb)));
on('clear', 'click', () => op(call('clear', { layer: 'all' })));
on('say', 'click', () => op(call('message', { text: $('text').value })));
on('link', 'click', () => op({ verb: 'link', on: !last.messageLinked }));
draw = (s) => {
  last = s;
  const deck = s.library.decks[s.deck - 1], item = deck.items[s.slide - 1], upcoming = deck.items[s.slide];
  const template = s.library.titleTemplates[s.title - 1];
  const pictures = s.library.pictureTitles.filter((_, n) => s.pictures[n]).join(' · ');
  show('audience', '<div>' + (item ? safe(item.title) + (item.seconds ? '<br><small>' + Math.ceil(s.clipLeft) + ' s left</small>' : '') : '') + '</div>' + (template ? '<div class="title">' + each(s.texts[s.title - 1], (t) => safe(t) + '<br>') + '</div>' : '') + (pictures ? '<p style="position:absolute;right:5%;top:4%">' + safe(pictures) + '</p>' : ''));
  show('decks', each(s.library.decks, (d, n) => '<button aria-pressed="' + (s.deck === n + 1) + '"' + does(call('deck', { deck: n + 1 })) + '>' + safe(d.name) + '</button>'));
  show('slides', each(deck.items, (i, n) => '<button aria-pressed="' + (s.slide === n + 1) + '"' + does(call('slide', { slide: n + 1 })) + '>' + (n + 1) + '</button>'));
  $('set').textContent = s.library.screenSets[s.set - 1];
  show('talent', '<b>' + safe(item ? item.title : '–') + '</b><span>' + safe(item ? item.notes : '') + '</span><span class="soft">next: ' + safe(upcoming ? upcoming.title : '–') + ' · ' + safe(s.library.arrangements[s.arrangement - 1]) + '</span>' + (s.messageLinked && s.message ? '<span class="note">' + safe(s.message) + '</span>' : ''));
  $('link').textContent = s.messageLinked ? 'Take the message off this screen' : 'Put the message on this screen';
  show('tracks', each(s.library.tracks, (t, n) => '<button aria-pressed="' + (s.track === n + 1 && s.sound === 'playing') + '"' + does(call('play', { track: n + 1 })) + '>' + safe(t.name) + '</button>') + '<button' + does(call('pause', { on: s.sound === 'playing' })) + '>Pause</button><button' + does(call('stop')) + '>Stop</button><span>' + s.sound + (s.sound === 'stopped' ? '' : ', ' + clock(s.position)) + '</span>');
};`;
