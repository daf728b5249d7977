export {
  decodeModbusHeader,
  decodeModbusRequest,
  decodeModbusResponse,
  encodeModbusRequest,
  encodeModbusResponse,
} from './codec';
export type { ModbusHeader, ModbusRequest, ModbusResponse, ModbusTable } from './messages';
export { lengthPrefix, maxAduBytes, maxCount } from './wire';
