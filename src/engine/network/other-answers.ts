import type { CompiledDriver } from '../../core/driver';
import { fromHex } from '../../core/wire';
import type { Prober } from './prober-client';
import type { TestTarget } from './test-target';
import { TestSession } from './test-session';

const otherTryMs = 2500;

/** Looks who else could be at the place that is tested. Nothing secret is shown to it. */
export class OtherAnswers {
  constructor(
    private readonly target: TestTarget,
    private readonly prober: Prober,
    private readonly signal: AbortSignal,
  ) {}

  /** Whether a device of this driver answers at a port. */
  async answersAs(driver: CompiledDriver | undefined, address: string, port: number): Promise<boolean> {
    if (!driver) return false;
    const session = new TestSession({ driver, host: address, port, user: '', password: '' });
    const link = await session.call(otherTryMs, this.signal);
    const fits =
      session.evidence.understood || link.word === 'up' || link.word === 'occupied' || link.word === 'locked out';
    session.end();
    return fits;
  }

  /** What the port says by itself or to a web request, where it has said nothing to the driver. */
  async listen(heard: Uint8Array, address: string, kind: 'tcp' | 'udp'): Promise<Uint8Array> {
    if (heard.length > 0 || kind === 'udp' || this.target.through !== undefined) return heard;
    const order = { do: 'listen', address, port: this.target.port, timeoutMs: 1000 } as const;
    const said = fromHex((await this.prober.ask(order, this.signal)).heard);
    return said.ok ? said.value : heard;
  }

  /** Drivers that fit: by what was heard already, or, for devices of the same role, by asking. */
  async answeredBy(drivers: readonly CompiledDriver[], heard: Uint8Array, address: string) {
    const text = new TextDecoder().decode(heard).split(/[\r\n]/)[0] ?? '';
    const { port, driver } = this.target;
    const { role, link } = driver?.document ?? {};
    const fits = await Promise.all(
      drivers.map((each) => {
        const [first] = each.greeting;
        if (first && 'expect' in first) return text !== '' && first.expect.matcher(text).find();
        return (
          each.document.role === role && each.document.link.kind === link?.kind && this.answersAs(each, address, port)
        );
      }),
    );
    return drivers.filter((_, n) => fits[n]).map(({ document: { id, title } }) => ({ id, title }));
  }
}
