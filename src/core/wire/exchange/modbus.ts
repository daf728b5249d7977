import { ok } from '../../result';
import { ByteFramer } from '../bytes';
import {
  decodeModbusHeader,
  decodeModbusResponse,
  encodeModbusRequest,
  lengthPrefix,
  maxAduBytes,
  type ModbusRequest,
} from '../modbus';
import type { Arrived, Exchange, Said } from './exchange';
import { dropped, wrongKind } from './plain';

const maxWaiting = 64;

/**
 * Modbus TCP. A response names its transaction; what its values are is known from the request. Each value is said as a line
 * of its own: `coil 3 1`, `holding 10 512`.
 */
export function modbusExchange(): Exchange {
  const framer = new ByteFramer({ kind: 'prefixed', ...lengthPrefix }, maxAduBytes);
  const waiting = new Map<number, { readonly ref: number; readonly request: ModbusRequest }>();
  let next = 1;
  const arrived = (raw: Uint8Array): Arrived => {
    const header = decodeModbusHeader(raw);
    if (!header.ok)
      return { raw, says: [], fault: `Not a Modbus frame, at byte ${header.error.offset}: ${header.error.message}` };
    const asked = waiting.get(header.value.transaction);
    if (!asked) return { raw, says: [], fault: `Nothing was asked as transaction ${header.value.transaction}.` };
    waiting.delete(header.value.transaction);
    const { ref, request } = asked;
    const response = decodeModbusResponse(raw, request);
    if (!response.ok) {
      const fault = `Not an answer to what was asked, at byte ${response.error.offset}: ${response.error.message}`;
      return { raw, says: [], fault };
    }
    const said = response.value;
    if (said.is === 'exception') return { raw, says: [], answer: { ref, how: 'refused', code: String(said.code) } };
    const says =
      said.is === 'values'
        ? said.values.map((value, n): Said => ({ kind: 'text', text: `${said.table} ${request.address + n} ${value}` }))
        : [];
    return { raw, says, answer: { ref, how: 'done' } };
  };
  return {
    write: (message, ref) => {
      if (message.kind !== 'modbus') return wrongKind(message);
      const transaction = next;
      next = (next + 1) & 0xffff;
      waiting.set(transaction, { ref, request: message.request });
      if (waiting.size > maxWaiting) waiting.delete(waiting.keys().next().value ?? 0);
      return ok(encodeModbusRequest({ transaction, unit: message.unit }, message.request));
    },
    read: (chunk) =>
      framer
        .push(chunk)
        .map((frame) => (frame.kind === 'frame' ? arrived(frame.raw) : dropped(frame, maxAduBytes, chunk))),
    rest: () => framer.rest(),
    forget: (ref) => {
      for (const [transaction, each] of waiting) if (each.ref === ref) waiting.delete(transaction);
    },
  };
}
