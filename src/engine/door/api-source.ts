import { encodeCommand } from '../../core/driver';
import type { Explanation } from '../../core/explain';
import type { HealthResponse, ReadingsResponse } from '../../core/live';
import type { Problem, Scalar } from '../../core/result';
import { ownDevice, type DeviceRecord } from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import type { Drills } from '../drills/drills';
import type { Health } from '../health/health';
import type { Log } from '../../log';
import type { Checker } from '../line-check/checker';
import type { BurnIn } from '../line-check/burn-in';
import type { LineCheck } from '../line-check/line-check';
import type { NetworkTools } from '../network/network-tools';
import type { Presses } from '../presses/presses';
import type { TraceBook } from '../presses/trace-book';
import type { Metrics } from './metrics';
import type { WireLog } from '../record/wire-log';
import type { RunningShow } from '../show/running-show';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly presses: Presses;
  readonly traces: TraceBook;
  /** What looks at the network; `undefined` where nothing does. */
  readonly tools: NetworkTools | undefined;
  /** The line check; `undefined` where nothing plans it. */
  readonly lineCheck: LineCheck | undefined;
  /** How devices, screens and this computer fare. */
  readonly watched: Health;
  readonly burnIn: BurnIn;
  readonly drills: Drills;
  /** What plays the as-run again; `undefined` where nothing does. */
  readonly checker: Checker | undefined;
  readonly health: () => HealthResponse;
  readonly newId: () => string;
  /** Deletes the oldest rows of the as-run that are over its limit. */
  readonly pruneRecord: () => void;
  readonly metrics: Metrics;
  readonly wire: Pick<WireLog, 'page'>;
  /** Everything that is needed to look into a failure. */
  readonly report: () => Promise<unknown>;
  readonly log: Log;
}

/** What the HTTP API for automation asks of the engine. */
export class ApiSource {
  constructor(private readonly sources: Sources) {}

  get presses(): Presses {
    return this.sources.presses;
  }

  /** The account of a press; `undefined` when it is too long ago or was never made here. */
  explain(press: string): Explanation | undefined {
    return this.sources.traces.explain(press);
  }

  get tools(): NetworkTools | undefined {
    return this.sources.tools;
  }

  get lineCheck(): LineCheck | undefined {
    return this.sources.lineCheck;
  }

  get checker(): Checker | undefined {
    return this.sources.checker;
  }

  get drills(): Drills {
    return this.sources.drills;
  }

  get burnIn(): BurnIn {
    return this.sources.burnIn;
  }

  get watched(): Health {
    return this.sources.watched;
  }

  get metrics(): Metrics {
    return this.sources.metrics;
  }

  get log(): Log {
    return this.sources.log;
  }

  get wire(): Pick<WireLog, 'page'> {
    return this.sources.wire;
  }

  health(): HealthResponse {
    return this.sources.health();
  }

  newId(): string {
    return this.sources.newId();
  }

  pruneRecord(): void {
    this.sources.pruneRecord();
  }

  report(): Promise<unknown> {
    return this.sources.report();
  }

  hasPage(id: string): boolean {
    return this.sources.show.pages.has(id);
  }

  deviceByTag(tag: string): DeviceRecord | undefined {
    return this.sources.show.deviceByTag(tag);
  }

  /** The readings of a device, or of all, with those of the program itself (`SHOW`); `undefined` when there is no device with this tag. */
  readings(tag: string | undefined): ReadingsResponse | undefined {
    const devices = [...this.sources.show.devices.values(), ownDevice].filter(
      ({ data }) => tag === undefined || data.tag === tag,
    );
    if (tag !== undefined && devices.length === 0) return undefined;
    return {
      readings: devices.flatMap(({ id, data }) =>
        Object.entries(this.sources.readings.view(id)).map(([key, reading]) => ({ device: data.tag, key, ...reading })),
      ),
    };
  }

  /** What is wrong with a command and its parameters, before anything is sent. */
  checkCommand(device: DeviceRecord, command: string, params: Readonly<Record<string, Scalar>>): Problem | undefined {
    const driver = this.sources.show.driverOf(device);
    if (!driver) return { path: 'device', message: 'The driver of this device is not installed here.' };
    const readingNow = (key: string) => this.sources.readings.fresh(device.id, key);
    const encoded = encodeCommand(driver, command, params, { ref: 1, readingNow });
    return encoded.ok ? undefined : encoded.error;
  }
}
