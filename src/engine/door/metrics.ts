import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';
import type { HealthResponse } from '../../core/live';
import type { Connections } from '../devices/connections';
import type { AsRun } from '../record/as-run';
import type { DeadMan } from '../presses/dead-man';

interface Sources {
  readonly asRun: AsRun;
  readonly connections: Connections;
  readonly hub: { readonly clients: number };
  readonly deadMan: DeadMan;
  readonly processes: () => HealthResponse['processes'];
}

/** In seconds: from a device on the same switch to one that has to be waited for. */
const pressBuckets = [0.001, 0.0025, 0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5];

/** Figures of the running program, in the open text format that monitoring systems read. */
export class Metrics {
  private readonly registry = new Registry();

  constructor({ asRun, connections, hub, deadMan, processes }: Sources) {
    const registers = [this.registry];
    collectDefaultMetrics({ register: this.registry });
    const presses = new Counter({
      name: 'sorrelfinch_presses_total',
      help: 'Presses that have ended, by outcome and reason code.',
      labelNames: ['outcome', 'why'],
      registers,
    });
    const seconds = new Histogram({
      name: 'sorrelfinch_press_duration_seconds',
      help: 'From a press to its outcome, of presses that were sent.',
      labelNames: ['outcome'],
      buckets: pressBuckets,
      registers,
    });
    asRun.listen((entry) => {
      if (entry.kind !== 'press') return;
      const { outcome, why = '', ms } = entry;
      presses.inc({ outcome, why });
      if (outcome !== 'skipped') seconds.observe({ outcome }, ms / 1000);
    });
    this.gauge('sorrelfinch_links', 'Devices, by the state of their link.', 'link', () =>
      countBy([...connections.statuses.values()], ({ link }) => link.word),
    );
    this.gauge('sorrelfinch_sends_waiting', 'Commands that wait for their turn, by device.', 'device', () =>
      [...connections.sessions].map(([id, session]) => [connections.statuses.get(id)?.tag ?? id, session.waiting]),
    );
    this.gauge('sorrelfinch_process_restarts', 'Restarts since the program started, by process.', 'process', () =>
      processes().map(({ name, restarts }) => [name, restarts]),
    );
    this.gauge('sorrelfinch_record_rows_waiting', 'Rows of the as-run that are not written yet.', undefined, () => [
      ['', asRun.rowsWaiting],
    ]);
    this.gauge('sorrelfinch_screens', 'Screens and programs that are connected.', undefined, () => [['', hub.clients]]);
    this.gauge('sorrelfinch_holds', 'Commands that go on until they are stopped.', undefined, () => [
      ['', deadMan.goingOn],
    ]);
  }

  readonly contentType = this.registry.contentType;

  text(): Promise<string> {
    return this.registry.metrics();
  }

  /** A figure that is looked up when somebody asks. */
  private gauge(
    name: string,
    help: string,
    label: string | undefined,
    now: () => readonly (readonly [string, number])[],
  ): void {
    new Gauge({
      name,
      help,
      labelNames: label === undefined ? [] : [label],
      registers: [this.registry],
      collect() {
        this.reset();
        for (const [of, value] of now()) this.set(label === undefined ? {} : { [label]: of }, value);
      },
    });
  }
}

function countBy<T>(all: readonly T[], of: (each: T) => string): [string, number][] {
  const counts = new Map<string, number>();
  for (const each of all) counts.set(of(each), (counts.get(of(each)) ?? 0) + 1);
  return [...counts];
}
