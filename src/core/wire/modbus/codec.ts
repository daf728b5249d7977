import { fail, ok, type Result } from '../../result';
import { ByteReader } from '../byte-reader';
import type { DecodeError } from '../decode-error';
import type { ModbusHeader, ModbusRequest, ModbusResponse, ModbusTable } from './messages';
import { exceptionBit, functions, maxCount, readFunction } from './wire';

/** One request as an ADU: header and PDU. */
export function encodeModbusRequest(header: ModbusHeader, request: ModbusRequest): Uint8Array {
  return adu(header, requestPdu(request));
}

/** One response as an ADU. `request` is what it answers: its function code is repeated. */
export function encodeModbusResponse(
  header: ModbusHeader,
  request: ModbusRequest,
  response: ModbusResponse,
): Uint8Array {
  const code = requestPdu(request)[0] ?? 0;
  if (response.is === 'exception') return adu(header, [code | exceptionBit, response.code]);
  if (response.is === 'written') {
    const second =
      request.do === 'writeCoil'
        ? request.on
          ? 0xff00
          : 0
        : request.do === 'writeHolding'
          ? request.value
          : response.count;
    return adu(header, [code, ...u16(response.address), ...u16(second)]);
  }
  const bits = response.table === 'coil' || response.table === 'input';
  const data = bits ? packBits(response.values) : response.values.flatMap(u16);
  return adu(header, [code, data.length, ...data]);
}

function requestPdu(request: ModbusRequest): number[] {
  const at = u16(request.address);
  switch (request.do) {
    case 'read':
      return [readFunction[request.table], ...at, ...u16(request.count)];
    case 'writeCoil':
      return [functions.writeCoil, ...at, request.on ? 0xff : 0, 0];
    case 'writeHolding':
      return [functions.writeHolding, ...at, ...u16(request.value)];
    case 'writeCoils': {
      const data = packBits(request.values.map(Number));
      return [functions.writeCoils, ...at, ...u16(request.values.length), data.length, ...data];
    }
    case 'writeHoldings': {
      const data = request.values.flatMap(u16);
      return [functions.writeHoldings, ...at, ...u16(request.values.length), data.length, ...data];
    }
  }
}

/** Reads a request, as a device would. `exception` in the error is what the device answers (7, “MODBUS Exception Codes”). */
export function decodeModbusRequest(
  bytes: Uint8Array,
): Result<{ readonly header: ModbusHeader; readonly request: ModbusRequest }, DecodeError & { exception?: number }> {
  const reader = new ByteReader(bytes);
  const header = readHeader(reader);
  const code = reader.u8();
  const address = reader.u16();
  const table = (Object.keys(readFunction) as ModbusTable[]).find((name) => readFunction[name] === code);
  let request: ModbusRequest | undefined;
  let exception: number | undefined;
  if (table) {
    const count = reader.u16();
    if (count < 1 || count > maxCount[table]) exception = 3;
    request = { do: 'read', table, address, count };
  } else if (code === functions.writeCoil) {
    const value = reader.u16();
    if (value !== 0 && value !== 0xff00) exception = 3;
    request = { do: 'writeCoil', address, on: value === 0xff00 };
  } else if (code === functions.writeHolding) {
    request = { do: 'writeHolding', address, value: reader.u16() };
  } else if (code === functions.writeCoils || code === functions.writeHoldings) {
    const count = reader.u16();
    const data = reader.take(reader.u8());
    const coils = code === functions.writeCoils;
    if (count < 1 || data.length !== (coils ? Math.ceil(count / 8) : count * 2)) exception = 3;
    else if (coils) request = { do: 'writeCoils', address, values: unpackBits(data, count).map(Boolean) };
    else request = { do: 'writeHoldings', address, values: registersOf(data) };
  } else exception = 1;
  if (exception === undefined) reader.end();
  if (exception !== undefined && (!reader.error || exception === 1)) {
    return fail({ code: 'bad-value', offset: 7, message: `Answered with exception ${exception}.`, exception });
  }
  if (reader.error || !request) return fail(reader.error ?? { code: 'bad-value', offset: 7, message: 'not a request' });
  return ok({ header, request });
}

/** Reads the header alone, to know which request a response answers. */
export function decodeModbusHeader(bytes: Uint8Array): Result<ModbusHeader, DecodeError> {
  const reader = new ByteReader(bytes);
  const header = readHeader(reader);
  return reader.error ? fail(reader.error) : ok(header);
}

/** Reads a response to a known request: what it means depends on what was asked. */
export function decodeModbusResponse(bytes: Uint8Array, request: ModbusRequest): Result<ModbusResponse, DecodeError> {
  const reader = new ByteReader(bytes);
  readHeader(reader);
  const code = reader.u8();
  const asked = requestPdu(request)[0] ?? 0;
  let response: ModbusResponse;
  if (code === (asked | exceptionBit)) response = { is: 'exception', code: reader.u8() };
  else if (request.do === 'read') {
    const bits = request.table === 'coil' || request.table === 'input';
    const wanted = bits ? Math.ceil(request.count / 8) : request.count * 2;
    const size = reader.u8();
    if (size !== wanted) reader.reject('bad-value', `${wanted} bytes were asked for, ${size} are said to come.`, 8);
    const data = reader.take(size);
    const values = bits ? unpackBits(data, request.count) : registersOf(data);
    response = { is: 'values', table: request.table, values };
  } else {
    const address = reader.u16();
    const second = reader.u16();
    response = { is: 'written', address, count: 'values' in request ? second : 1 };
  }
  if (code !== asked && code !== (asked | exceptionBit)) {
    reader.reject('bad-value', `Function ${asked} was asked for, ${code} came.`, 7);
  }
  reader.end();
  return reader.error ? fail(reader.error) : ok(response);
}

function readHeader(reader: ByteReader): ModbusHeader {
  const transaction = reader.u16();
  const protocol = reader.u16();
  if (protocol !== 0) reader.reject('bad-value', `The protocol number is 0, not ${protocol}.`, 2);
  const length = reader.u16();
  if (length !== reader.left) reader.reject('bad-value', `The length says ${length}; ${reader.left} bytes follow.`, 4);
  return { transaction, unit: reader.u8() };
}

function adu({ transaction, unit }: ModbusHeader, pdu: readonly number[]): Uint8Array {
  return Uint8Array.from([...u16(transaction), 0, 0, ...u16(pdu.length + 1), unit & 0xff, ...pdu]);
}

const u16 = (value: number): number[] => [(value >> 8) & 0xff, value & 0xff];

/** The first bit is the lowest of the first byte (6.1). */
function packBits(values: readonly number[]): number[] {
  const bytes = new Array<number>(Math.ceil(values.length / 8)).fill(0);
  values.forEach((value, n) => value && (bytes[n >> 3] = (bytes[n >> 3] ?? 0) | (1 << (n & 7))));
  return bytes;
}

const unpackBits = (bytes: Uint8Array, count: number): number[] =>
  Array.from({ length: count }, (_, n) => ((bytes[n >> 3] ?? 0) >> (n & 7)) & 1);

const registersOf = (bytes: Uint8Array): number[] =>
  Array.from({ length: bytes.length >> 1 }, (_, n) => (bytes[n * 2] ?? 0) * 256 + (bytes[n * 2 + 1] ?? 0));
