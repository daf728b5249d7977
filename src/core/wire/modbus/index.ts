export {
  decodeModbusHeader,
  decodeModbusRequest,
  decodeModbusResponse,
  encodeModbusRequest,
  encodeModbusResponse,
} from './codec';
export type { ModbusHeader, ModbusRequest, ModbusResponse } from './messages';
export { lengthPrefix, maxAduBytes } from './wire';
