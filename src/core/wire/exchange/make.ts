import type { Exchange } from './exchange';
import type { CutFraming } from './framing';
import { modbusExchange } from './modbus';
import { silenceExchange } from './ended';
import { markedExchange } from './marked';
import { midiExchange } from './midi';
import { linesExchange, messageExchange, oscExchange } from './plain';
import { umdExchange } from './umd';
import { viscaBareExchange, viscaIpExchange } from './visca';

/** The conversation for a framing. HTTP and MQTT have none of their own: their libraries cut and match. */
export function makeExchange(framing: CutFraming, stream: boolean): Exchange {
  switch (framing.kind) {
    case 'lines':
      return linesExchange(framing, false);
    case 'json-lines':
      return linesExchange({ ...framing, ending: 'lf', encoding: 'utf-8' }, true);
    case 'silence':
      return silenceExchange(framing);
    case 'terminated':
    case 'fixed':
    case 'prefixed':
      return markedExchange(framing);
    case 'unframed':
    case 'message':
      return messageExchange(framing);
    case 'osc':
      return oscExchange(framing.maxFrameBytes, stream ? (framing.over ?? 'slip') : 'datagram');
    case 'visca':
      return framing.header ? viscaIpExchange() : viscaBareExchange();
    case 'modbus':
      return modbusExchange();
    case 'midi':
      return midiExchange(framing);
    case 'umd':
      return umdExchange(framing.version);
  }
}
