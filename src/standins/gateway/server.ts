import { createServer, type Server, type Socket } from 'node:net';
import { z } from 'zod';
import {
  ByteFramer,
  decodeModbusRequest,
  encodeModbusResponse,
  maxAduBytes,
  type ModbusHeader,
  type ModbusRequest,
  type ModbusResponse,
} from '../../core/wire';
import { readByHand, standinPage, TcpStandin, type Client, type StandinOptions } from '../kit';
import { coils, GatewayModel } from './model';
import type { SerialLine } from './serial-line';
import { gatewayBody, gatewayCss, gatewayScript } from './page';

interface GatewayOptions extends StandinOptions {
  /** The TCP port that is the serial line; 0 picks a free one. */
  readonly serialPort: number;
  readonly line: SerialLine;
}

const operation = z.discriminatedUnion('verb', [
  z.strictObject({
    verb: z.literal('coil'),
    n: z
      .number()
      .int()
      .min(0)
      .max(coils.length - 1),
    on: z.boolean(),
  }),
  z.strictObject({ verb: z.literal('door'), closed: z.boolean() }),
]);

/** The gateway: relays by Modbus TCP, and a TCP port whose bytes come out at a serial port, and back. */
export class GatewayStandin extends TcpStandin {
  readonly title = 'Gateway with relays';
  private readonly model = new GatewayModel(() => this.tell());
  private serial: Server | undefined;
  private readonly serialSockets = new Set<Socket>();
  private serialPortNow: number;

  constructor(private readonly gateway: GatewayOptions) {
    super(gateway);
    this.serialPortNow = gateway.serialPort;
  }

  get serialPort(): number {
    return this.serialPortNow;
  }

  page = (): string =>
    standinPage({ tag: this.tag, title: this.title, css: gatewayCss, body: gatewayBody, script: gatewayScript });

  protected own = () => ({
    ...this.model.state,
    inputs: this.model.inputs,
    serialPort: this.serialPortNow,
    serialConnected: this.serialSockets.size,
  });

  protected byHand(body: unknown): string | undefined {
    return readByHand(operation, body, (order) =>
      order.verb === 'coil' ? void this.model.setCoil(order.n, order.on) : void this.model.setDoor(order.closed),
    );
  }

  protected override frame(): void {
    this.model.frame();
  }

  override drop(): void {
    super.drop();
    for (const socket of this.serialSockets) socket.resetAndDestroy();
  }

  protected override async open(host: string, port: number): Promise<number> {
    const got = await super.open(host, port);
    const server = createServer((socket) => this.joinSerial(socket));
    this.serial = server;
    await new Promise<void>((resolve, reject) => {
      server.once('error', reject);
      server.listen(this.serialPortNow, host, resolve);
    });
    const address = server.address();
    if (address && typeof address === 'object') this.serialPortNow = address.port;
    return got;
  }

  protected override async shut(): Promise<void> {
    const { serial } = this;
    this.serial = undefined;
    for (const socket of this.serialSockets) socket.destroy();
    await super.shut();
    if (serial) await new Promise<void>((resolve) => void serial.close(() => resolve()));
  }

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
        if (address >= coils.length) return illegalAddress;
        this.model.setCoil(address, request.on);
        return { is: 'written', address, count: 1 };
      case 'writeCoils':
        if (address + request.values.length > coils.length) return illegalAddress;
        request.values.forEach((on, n) => this.model.setCoil(address + n, on));
        return { is: 'written', address, count: request.values.length };
      case 'writeHolding':
        if (address >= this.model.state.holding.length) return illegalAddress;
        this.model.setHolding(address, request.value);
        return { is: 'written', address, count: 1 };
      case 'writeHoldings':
        if (address + request.values.length > this.model.state.holding.length) return illegalAddress;
        request.values.forEach((value, n) => this.model.setHolding(address + n, value));
        return { is: 'written', address, count: request.values.length };
    }
  }

  private valuesOf(table: 'coil' | 'input' | 'holding' | 'register'): number[] {
    switch (table) {
      case 'coil':
        return this.model.state.coils.map(Number);
      case 'input':
        return this.model.inputs.map(Number);
      case 'holding':
        return [...this.model.state.holding];
      case 'register':
        return this.model.registers(this.faults.otherModel);
    }
  }

  private joinSerial(socket: Socket): void {
    const { line } = this.gateway;
    this.serialSockets.add(socket);
    const leave = line.listen((bytes) => void (socket.writable && socket.write(bytes)));
    socket.on('data', (chunk) => line.toDevice(chunk));
    socket.on('error', () => socket.destroy());
    socket.on('close', () => {
      leave();
      this.serialSockets.delete(socket);
      this.tell();
    });
    this.tell();
  }
}
