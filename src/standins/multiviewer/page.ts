/** The multiviewer as it hangs on the wall: a mosaic with names and lamps below the pictures. */

export const multiviewerCss = `.mosaic { display: grid; grid-template-columns: repeat(4, 1fr); gap: 6px; margin: 20px 0; } .tile { border: 1px solid var(--line); } .tile i { display: block; aspect-ratio: 16 / 9; background: linear-gradient(160deg, #26303a, #15181b); } .tile p { display: flex; align-items: center; gap: 8px; margin: 0; padding: 4px 8px; font: 600 14px/1.3 monospace; min-height: 30px; background: #000; } .lamp { width: 14px; height: 14px; border: 1px solid #555; flex: none; } .tile p span { flex: 1; text-align: center; overflow: hidden; white-space: nowrap; } .lamp.red { background: #e5352b; } .lamp.green { background: #37b24d; } .lamp.amber { background: #f0a020; }`;
export const multiviewerBody = `<div class="mosaic" id="tiles"></div><div class="acts"><label>Understands UMD tally version <select id="version"><option>5.0</option><option>3.1</option></select></label><button id="blank">Forget all names</button></div><dl id="facts"></dl>`;
export const multiviewerScript = `
on('version', 'change', () => op({ verb: 'version', version: $('version').value }));
on('blank', 'click', () => op({ verb: 'blank' }));
draw = (s) => {
  $('version').value = s.version;
  show('tiles', each(s.displays, (d) => '<div class="tile"><i></i><p style="opacity:' + (0.4 + d.brightness / 5) + '"><b class="lamp ' + d.left + '" title="' + d.left + '"></b><span>' + safe(d.text || '–') + '</span><b class="lamp ' + d.right + '" title="' + d.right + '"></b></p></div>'));
  show('facts', each([['Taken', s.taken], ['Not understood', s.refused + (s.why ? ': ' + s.why : '')]], ([k, v]) => '<dt>' + k + '</dt><dd>' + safe(v) + '</dd>'));
};`;
