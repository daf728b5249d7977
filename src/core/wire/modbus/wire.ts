import type { ModbusTable } from './messages';

/** Function codes, MODBUS Application Protocol 1.1b3, 6. */
export const functions = {
  readCoils: 1,
  readInputs: 2,
  readHoldings: 3,
  readRegisters: 4,
  writeCoil: 5,
  writeHolding: 6,
  writeCoils: 15,
  writeHoldings: 16,
} as const;

export const readFunction: Readonly<Record<ModbusTable, number>> = {
  coil: functions.readCoils,
  input: functions.readInputs,
  holding: functions.readHoldings,
  register: functions.readRegisters,
};

/** The most that one request may ask for: 2000 bits (6.1), 125 registers (6.3). */
export const maxCount: Readonly<Record<ModbusTable, number>> = { coil: 2000, input: 2000, holding: 125, register: 125 };

/** Transaction, protocol and length stand before what the length counts. */
export const lengthPrefix = { header: 4, width: 2, endian: 'big', counts: 'rest' } as const;
/** The largest ADU on TCP: 7 bytes of header and a PDU of 253 (Messaging 3.1.2). */
export const maxAduBytes = 260;
/** A function code with this bit set is an exception (Application Protocol 7). */
export const exceptionBit = 0x80;
