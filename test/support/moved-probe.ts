import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { HardwareBook } from '../../src/engine/network/hardware-book';
import { MovedWatch } from '../../src/engine/network/moved-watch';
import type { LinkChange } from '../../src/engine/parts';
import type { RunningShow } from '../../src/engine/show/running-show';
import { directProber as prober } from './direct-prober';

/**
 * Watches for a device that goes missing, from wherever it is started, and prints what it notices: run inside a network of its own.
 *   node moved-probe.js <host>
 */
const [, , host = ''] = process.argv;
const show = { devices: new Map([['d', { id: 'd', data: { host } }]]) } as unknown as RunningShow;
const change = (word: string) => ({ device: 'd', status: { link: { word } } }) as unknown as LinkChange;
const hardware = new HardwareBook({
  dataDir: mkdtempSync(join(tmpdir(), 'sorrelfinch-')),
  show,
  prober,
  setAnswersAs: () => undefined,
  onFault: console.error,
});
const watch = new MovedWatch({
  show,
  prober,
  hardware,
  setMovedTo: (_, address) => address !== undefined && console.log(`moved to ${address}`),
  lookEveryMs: 200,
});
hardware.onLink(change('up'));
const waiting = setInterval(() => {
  if (hardware.macOf('d') === undefined) return;
  clearInterval(waiting);
  console.log('known');
  watch.onLink(change('down'));
}, 50);
setInterval(() => undefined, 60_000);
