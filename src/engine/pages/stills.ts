import type { DriverDocument } from '../../core/driver';
import type { ProbeAnswers } from '../../core/diagnosis';
import { fail, ok, type Result, type Scalar } from '../../core/result';
import { readingId, stillKey, type DeviceRecord } from '../../core/show';
import type { Prober } from '../network/prober-client';
import type { Aims } from '../aim/aims';
import type { Connections } from '../devices/connections';
import type { ReadingStore } from '../devices/readings';
import type { RunningShow } from '../show/running-show';

interface StillPicture {
  readonly type: string;
  readonly bytes: Buffer;
}

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly prober: Prober;
  /** Of a device that is not there no picture is true, whatever is handed out. */
  readonly connections: Connections;
  /** True while a panel shows what depends on this reading. */
  readonly isShown: (readingId: string) => boolean;
  readonly passwordOf: (device: string) => string;
  readonly aims: Aims;
}

interface Known {
  /** The newest pictures, oldest first: a panel may still be fetching the one before. */
  readonly kept: { readonly hash: string; readonly picture: StillPicture }[];
  dueAt: number;
  busy: boolean;
  failures: number;
}

const lookMs = 100;
const keptOfEach = 4;
/** The number of failures in a row after which the picture counts as unknown. */
const mostFailures = 3;
const timeoutMs = 3000;

/**
 * The pictures that devices hand out over HTTP, fetched by the prober while a panel shows them. Each is known by the hash of its
 * bytes, which is the value of a reading: panels are told by the way of all readings, and fetch what they do not have.
 */
export class Stills {
  private readonly known = new Map<string, Known>();
  private timer: NodeJS.Timeout | undefined;

  constructor(private readonly sources: Sources) {}

  start(): void {
    this.timer = setInterval(() => this.look(), lookMs);
    this.timer.unref();
  }

  /** A picture by its hash. */
  picture(hash: string): StillPicture | undefined {
    for (const { kept } of this.known.values()) {
      const found = kept.find((each) => each.hash === hash);
      if (found) return found.picture;
    }
    return undefined;
  }

  stop(): void {
    clearInterval(this.timer);
  }

  private look(): void {
    const { show, isShown, connections } = this.sources;
    const now = performance.now();
    for (const device of show.devices.values()) {
      if (!connections.isUp(device.id)) continue;
      const stills = show.driverOf(device)?.document.stills;
      for (const [name, still] of Object.entries(stills ?? {})) {
        const id = readingId({ device: device.id, key: stillKey(name) });
        if (!isShown(id)) continue;
        const known = this.knownOf(id);
        if (known.busy || now < known.dueAt) continue;
        known.dueAt = now + still.everyMs;
        void this.fetch(device, name, still, known);
      }
    }
  }

  private defaultsOf(device: DeviceRecord) {
    const options = this.sources.show.driverOf(device)?.document.options ?? {};
    return Object.fromEntries(Object.entries(options).map(([name, option]) => [name, option.default]));
  }

  private knownOf(id: string): Known {
    let known = this.known.get(id);
    if (!known) this.known.set(id, (known = { kept: [], dueAt: 0, busy: false, failures: 0 }));
    return known;
  }

  /** Where the picture is; `undefined` while the device has not said it. */
  private placeOf(
    device: DeviceRecord,
    { port, path }: DriverDocument['stills'][string],
    given: Readonly<Record<string, Scalar>>,
  ): { readonly port: number; readonly path: string } | undefined {
    const valueOf = (part: typeof port | typeof path) => {
      if (typeof part !== 'object') return part;
      return 'option' in part ? given[part.option] : this.sources.readings.fresh(device.id, part.reading);
    };
    const place = { port: Number(valueOf(port)), path: String(valueOf(path) ?? '') };
    return /^\/\S*$/.test(place.path) && place.port > 0 ? place : undefined;
  }

  /**
   * A picture of what a device sees now, whether a panel shows it or not.
   * @returns why there is none, as a sentence, where there is none
   */
  async take(device: DeviceRecord, name: string): Promise<Result<StillPicture, string>> {
    const still = this.sources.show.driverOf(device)?.document.stills[name];
    if (!still) return fail('Its driver does not define a picture.');
    const asked = await this.ask(device, still, undefined);
    if (!asked) return fail('The camera has not reported the address of its picture yet.');
    if (asked.error !== undefined) return fail(asked.error);
    const { type, bytes = '' } = asked;
    return ok({ type, bytes: Buffer.from(bytes, 'base64') });
  }

  /** Fetches a picture unless it is the one with this hash; `undefined` while nobody knows where it is. */
  private async ask(
    { id, data }: DeviceRecord,
    still: DriverDocument['stills'][string],
    has: string | undefined,
  ): Promise<ProbeAnswers['picture'] | undefined> {
    const { prober, passwordOf, aims, show } = this.sources;
    const place = aims.placeOf(id)?.place;
    const device = show.devices.get(id);
    const given = { ...(device ? this.defaultsOf(device) : {}), ...data.options, ...place?.options };
    const from = device && this.placeOf(device, still, given);
    if (!from) return undefined;
    const { user: signIn, password } = place ?? { user: data.user, password: passwordOf(id) };
    const user = signIn === '' ? {} : { user: signIn, password };
    const host = place?.host ?? data.host;
    return prober.ask({ do: 'picture', host, ...from, has, ...user, timeoutMs });
  }

  private async fetch(
    device: DeviceRecord,
    name: string,
    still: DriverDocument['stills'][string],
    known: Known,
  ): Promise<void> {
    const { readings } = this.sources;
    known.busy = true;
    const key = stillKey(name);
    try {
      const answer = await this.ask(device, still, known.kept.at(-1)?.hash);
      if (!answer) return;
      if (answer.error !== undefined) throw new Error(answer.error);
      known.failures = 0;
      if (answer.bytes !== undefined) {
        known.kept.push({
          hash: answer.hash,
          picture: { type: answer.type, bytes: Buffer.from(answer.bytes, 'base64') },
        });
        if (known.kept.length > keptOfEach) known.kept.shift();
      }
      if (this.sources.connections.isUp(device.id) && readings.fresh(device.id, key) !== answer.hash)
        readings.report(device.id, [{ key, value: answer.hash }], Date.now());
    } catch {
      known.failures += 1;
      // A device that is there and whose picture is not: what was seen last is not what there is now.
      if (known.failures >= mostFailures && readings.fresh(device.id, key) !== undefined)
        readings.report(device.id, [{ key, value: '' }], Date.now());
    } finally {
      known.busy = false;
    }
  }
}
