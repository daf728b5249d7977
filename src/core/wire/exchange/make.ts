import type { Exchange } from './exchange';
import type { Framing } from './framing';
import { modbusExchange } from './modbus';
import { bytesExchange, linesExchange, messageExchange, oscExchange } from './plain';
import { silenceExchange, terminatedExchange } from './ended';
import { umdExchange } from './umd';
import { viscaBareExchange, viscaIpExchange } from './visca';

/** The conversation for a framing. HTTP has none of its own: its library cuts and matches. */
export function makeExchange(framing: Exclude<Framing, { kind: 'http' }>, stream: boolean): Exchange {
  switch (framing.kind) {
    case 'lines':
      return linesExchange(framing, false);
    case 'json-lines':
      return linesExchange({ ...framing, ending: 'lf', encoding: 'utf-8' }, true);
    case 'terminated':
      return terminatedExchange(framing);
    case 'silence':
      return silenceExchange(framing);
    case 'fixed':
    case 'prefixed':
      return bytesExchange(framing, framing.maxFrameBytes, framing.check);
    case 'unframed':
    case 'message':
      return messageExchange(framing);
    case 'osc':
      return oscExchange(framing.maxFrameBytes, stream);
    case 'visca':
      return framing.header ? viscaIpExchange() : viscaBareExchange();
    case 'modbus':
      return modbusExchange();
    case 'umd':
      return umdExchange(framing.version);
  }
}
