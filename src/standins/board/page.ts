/** The results board as people on the bank see it. */

export const boardCss = `.board { background: #14110d; border: 10px solid #3b332a; padding: 18px 26px; margin: 24px 0; width: max-content; max-width: 100%; } .board p { font: 700 40px/1.25 monospace; letter-spacing: .12em; margin: 0; min-height: 50px; color: #f0c987; white-space: pre; }`;
export const boardBody = `<div class="board" id="rows"></div><dl id="facts"></dl><div class="acts"><label>Row <input id="row" type="number" min="1" max="6" value="1"></label><label>Text <input id="text" maxlength="8"></label><button id="put">Show it</button><button id="clear">Clear</button></div>`;
export const boardScript = `
on('put', 'click', () => op({ verb: 'text', row: Number($('row').value), text: $('text').value }));
on('clear', 'click', () => op({ verb: 'clear' }));
draw = (s) => {
  show('rows', each(s.rows, (r) => '<p>' + (s.shown ? safe(r.padEnd(8)) : '        ') + '</p>'));
  $('rows').style.opacity = s.power ? 0.4 + s.brightness / 15 : 0.2;
  show('facts', each([['Brightness', s.brightness + ' of 9'], ['Shown', s.shown ? 'yes' : 'blank']], ([k, v]) => '<dt>' + k + '</dt><dd>' + v + '</dd>'));
};`;
