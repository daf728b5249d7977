/** The screen's page: the picture, its inputs, and the state of its parts. */

export const screenCss = `.wall { max-width: 640px; margin-top: 20px; } .wall p { position: absolute; inset: 0; display: grid; place-items: center; margin: 0; font-size: 28px; }`;
export const screenBody = `<div class="wall screen"><p id="shown"></p></div><div class="acts"><button id="on">On</button><button id="off">Off</button><button id="blank">Blank</button><button id="mute">Mute</button><button id="freeze">Freeze</button></div><h2>Inputs</h2><div class="acts" id="inputs"></div><h2>Health</h2><div class="acts" id="health"></div><dl id="facts"></dl>`;
export const screenScript = `
let last = {};
const powers = { off: 'Off', cooling: 'Cooling down …', warming: 'Warming up …' };
const after = { well: 'warning', warning: 'error', error: 'well' };
on('on', 'click', () => op({ verb: 'turn', on: true }));
on('off', 'click', () => op({ verb: 'turn', on: false }));
on('blank', 'click', () => op({ verb: 'mute', isBlank: !last.isBlank }));
on('mute', 'click', () => op({ verb: 'mute', isMuted: !last.isMuted }));
on('freeze', 'click', () => op({ verb: 'freeze', on: !last.isFrozen }));
draw = (s) => {
  last = s;
  const input = s.inputs.find((each) => each.id === s.input);
  $('shown').textContent = powers[s.powerState] ?? (s.isBlank ? '' : input.signal ? input.name + (s.isFrozen ? ', frozen' : '') : 'No signal');
  for (const [id, is] of [['blank', s.isBlank], ['mute', s.isMuted], ['freeze', s.isFrozen]]) $(id).setAttribute('aria-pressed', is);
  show('inputs', each(s.inputs, (input) => '<button aria-pressed="' + (input.id === s.input) + '"' + does({ verb: 'input', id: input.id }) + '>' + input.id + ' ' + safe(input.name) + '</button>'));
  show('health', each(Object.entries(s.health), ([part, is]) => '<button' + does({ verb: 'health', part, health: after[is] }) + '>' + part + ': ' + is + '</button>'));
  show('facts', each([['Name', s.name], ['PJLink', 'class ' + s.class], ['Speaker', s.volume], ['Microphone', s.microphone], ['Lamp', s.lampHours + ' h']], ([k, v]) => '<dt>' + k + '</dt><dd>' + safe(String(v)) + '</dd>'));
};`;
