import {
  ByteFramer,
  decodeModbusRequest,
  encodeModbusResponse,
  maxAduBytes,
  type ModbusHeader,
  type ModbusRequest,
  type ModbusResponse,
} from '../../core/wire';
import { TcpStandin, type Client } from './tcp-standin';

type Table = 'coil' | 'input' | 'holding' | 'register';

/** A stand-in that speaks Modbus TCP (Modbus Application Protocol V1.1b3), as unit 1. */
export abstract class ModbusStandin extends TcpStandin {
  /** All values of a table, from address 0. */
  protected abstract valuesOf(table: Table): readonly number[];
  protected abstract writeCoil(address: number, on: boolean): void;
  /** What has no holding registers leaves them alone. */
  protected writeHolding(_address: number, _value: number): void {}

  protected welcome(client: Client): (chunk: Uint8Array) => void {
    const framing = { kind: 'prefixed', header: 4, width: 2, endian: 'big', counts: 'rest' } as const;
    const framer = new ByteFramer(framing, maxAduBytes);
    if (this.faults.taken) client.end();
    return (chunk) => {
      for (const frame of framer.push(chunk)) if (frame.kind === 'frame') this.onAdu(client, frame.raw);
    };
  }

  private onAdu(client: Client, raw: Uint8Array): void {
    const decoded = decodeModbusRequest(raw);
    if (!decoded.ok) {
      const { exception } = decoded.error;
      if (exception === undefined) return;
      // The header and the function code are there: the exception repeats them (Application Protocol, 7).
      const answer = Uint8Array.from([...raw.subarray(0, 4), 0, 3, raw[6] ?? 0, (raw[7] ?? 0) | 0x80, exception]);
      return client.send(answer);
    }
    const { header, request } = decoded.value;
    client.send(encodeModbusResponse(header, request, this.respond(header, request)));
  }

  private respond({ unit }: ModbusHeader, request: ModbusRequest): ModbusResponse {
    if (unit !== 1) return { is: 'exception', code: 11 };
    const illegalAddress = { is: 'exception', code: 2 } as const;
    const { address } = request;
    switch (request.do) {
      case 'read': {
        const all = this.valuesOf(request.table);
        if (address + request.count > all.length) return illegalAddress;
        return { is: 'values', table: request.table, values: all.slice(address, address + request.count) };
      }
      case 'writeCoil':
        if (address >= this.valuesOf('coil').length) return illegalAddress;
        this.writeCoil(address, request.on);
        return { is: 'written', address, count: 1 };
      case 'writeCoils':
        if (address + request.values.length > this.valuesOf('coil').length) return illegalAddress;
        request.values.forEach((on, n) => this.writeCoil(address + n, on));
        return { is: 'written', address, count: request.values.length };
      case 'writeHolding':
        if (address >= this.valuesOf('holding').length) return illegalAddress;
        this.writeHolding(address, request.value);
        return { is: 'written', address, count: 1 };
      case 'writeHoldings':
        if (address + request.values.length > this.valuesOf('holding').length) return illegalAddress;
        request.values.forEach((value, n) => this.writeHolding(address + n, value));
        return { is: 'written', address, count: request.values.length };
    }
  }
}
