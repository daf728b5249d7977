/** The lights on the pontoon, as somebody beside it sees them. */

export const lightsCss = `.stage { display: grid; grid-template-columns: repeat(5, 1fr); gap: 14px; background: #0c0d0f; padding: 18px; margin: 20px 0; } .stage figure { margin: 0; text-align: center; font: 600 13px/1.4 monospace; color: #b9b4aa; } .stage i { display: block; aspect-ratio: 1; border-radius: 50%; border: 2px solid #3a3733; margin-bottom: 6px; }`;
export const lightsBody = `<div class="stage" id="lamps"></div><div class="acts"><label>Universe <input id="universe" type="number" min="1" max="63999"></label></div><dl id="facts"></dl>`;
export const lightsScript = `
on('universe', 'change', () => op({ verb: 'universe', universe: Number($('universe').value) }));
draw = (s) => {
  $('universe').value = s.universe;
  show('lamps', each(s.lamps, (l) => '<figure><i style="background:rgb(' + l.colour.join(',') + ');opacity:' + (s.power ? 1 : 0.1) + '"></i>' + safe(l.name) + '<br>' + safe(l.says) + '</figure>'));
  show('facts', each([['Follows', s.source ? s.source.name + ', priority ' + s.source.priority : 'nobody: the last levels stay'], ['Sources', s.sources], ['Packets', s.taken], ['Not understood', s.refused + (s.why ? ': ' + s.why : '')]], ([k, v]) => '<dt>' + k + '</dt><dd>' + safe(String(v)) + '</dd>'));
};`;
