import { createServer, type Server, type Socket } from 'node:net';
import { z } from 'zod';
import { ModbusStandin, readByHand, standinPage, type StandinOptions } from '../kit';
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
export class GatewayStandin extends ModbusStandin {
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

  protected writeCoil(address: number, on: boolean): void {
    this.model.setCoil(address, on);
  }

  protected override writeHolding(address: number, value: number): void {
    this.model.setHolding(address, value);
  }

  protected valuesOf(table: 'coil' | 'input' | 'holding' | 'register'): number[] {
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
