import type { InletData } from '../../core/show';
import { listenHttp } from './http-end';
import type { InletEnd, Listener } from './inlet-listener';
import { listenBroker } from './mqtt-broker';
import { speakThrough } from './mqtt-elsewhere';
import { listenOsc } from './osc-end';
import { listenSacn } from './sacn-end';
import { listenText } from './text-end';
import { listenUmd } from './umd-end';

/** Opens an inlet at its address and port. What goes wrong is told, also later. */
export function openInlet(data: InletData, listener: Listener): InletEnd {
  switch (data.speaks) {
    case 'text':
      return listenText(data, listener);
    case 'osc':
      return listenOsc(data, listener);
    case 'http':
      return listenHttp(data, listener);
    case 'sacn':
      return listenSacn(data, listener);
    case 'umd':
      return listenUmd(data, listener);
    case 'mqtt':
      return data.broker ? speakThrough(data, data.broker, listener) : listenBroker(data, listener);
  }
}
