import { z } from 'zod';
import { ModbusStandin, readByHand, standinPage } from '../kit';
import { pulses, relayNames, RelaysModel } from './model';
import { relaysBody, relaysCss, relaysScript } from './page';

const operation = z.discriminatedUnion('verb', [
  z.strictObject({
    verb: z.literal('coil'),
    n: z
      .number()
      .int()
      .min(0)
      .max(relayNames.length + pulses.length - 1),
    on: z.boolean(),
  }),
  z.strictObject({ verb: z.literal('door'), closed: z.boolean() }),
  z.strictObject({ verb: z.literal('bell'), on: z.boolean() }),
]);

/** A box of relays and contacts: Modbus TCP. */
export class RelaysStandin extends ModbusStandin {
  readonly title = 'Relays, blinds and lift';
  private readonly model = new RelaysModel(() => this.tell());

  page = (): string =>
    standinPage({ tag: this.tag, title: this.title, css: relaysCss, body: relaysBody, script: relaysScript });
  protected own = () => ({ ...this.model.state, names: relayNames, pulseNames: pulses });

  protected byHand(body: unknown): string | undefined {
    return readByHand(operation, body, (order) => {
      if (order.verb === 'coil') this.model.setCoil(order.n, order.on);
      else if (order.verb === 'door') this.model.setDoor(order.closed);
      else this.model.setBell(order.on);
      return undefined;
    });
  }

  protected override frame(): void {
    this.model.frame();
  }

  protected writeCoil(address: number, on: boolean): void {
    this.model.setCoil(address, on);
  }

  protected valuesOf(table: 'coil' | 'input' | 'holding' | 'register'): number[] {
    if (table === 'coil') return this.model.coils.map(Number);
    if (table === 'input') return this.model.inputs.map(Number);
    return table === 'register' ? this.model.registers(this.faults.otherModel) : [];
  }
}
