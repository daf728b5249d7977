/** MODBUS Application Protocol 1.1b3: the functions that move bits and registers. Addresses count from 0. */

export type ModbusTable = 'coil' | 'input' | 'holding' | 'register';

export type ModbusRequest =
  | { readonly do: 'read'; readonly table: ModbusTable; readonly address: number; readonly count: number }
  | { readonly do: 'writeCoil'; readonly address: number; readonly on: boolean }
  | { readonly do: 'writeHolding'; readonly address: number; readonly value: number }
  | { readonly do: 'writeCoils'; readonly address: number; readonly values: readonly boolean[] }
  | { readonly do: 'writeHoldings'; readonly address: number; readonly values: readonly number[] };

export type ModbusResponse =
  | { readonly is: 'values'; readonly table: ModbusTable; readonly values: readonly number[] }
  | { readonly is: 'written'; readonly address: number; readonly count: number }
  | { readonly is: 'exception'; readonly code: number };

/** MODBUS Messaging on TCP/IP 1.0b, 3.1.3: transaction, protocol (always 0), length, unit. */
export interface ModbusHeader {
  readonly transaction: number;
  readonly unit: number;
}
