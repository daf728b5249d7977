import { setMaxListeners } from 'node:events';
import type { CheckItem, CheckResult, Proof } from '../../core/line-check';
import type { CheckOrder, TestLine } from '../../core/live';
import type { Log } from '../../log';
import type { NetworkTools } from '../network/network-tools';
import type { Checker } from './checker';

/** One proof of one item. */
export interface CheckWork {
  readonly item: CheckItem;
  readonly proof: Proof;
}

export type Seen = Pick<CheckResult, 'state' | 'text'> &
  Partial<Pick<CheckResult, 'ms' | 'bytes' | 'exchange' | 'trouble' | 'mends' | 'press' | 'left' | 'sideEffects'>>;

interface RunSources {
  readonly checker: Checker;
  readonly tools: NetworkTools | undefined;
  readonly tagOf: (device: string) => string | undefined;
  /** Carries out a proof that needs neither the network tools nor a rehearsal. */
  readonly prove: (work: CheckWork) => Promise<Seen>;
  readonly onResult: (work: CheckWork, seen: Seen) => void;
  readonly onState: () => void;
  readonly onOver: () => void;
  readonly log: Log;
}

const keyOf = ({ item, proof }: CheckWork): string => `${item.id} ${proof.by}`;

/** The work of an order, item by item. */
export function workOf(
  items: Iterable<CheckItem>,
  { rehearse, putBack }: Pick<CheckOrder, 'rehearse' | 'putBack'>,
  isWanted: (item: CheckItem, proof: Proof) => boolean,
): CheckWork[] {
  const changeable = new Set(putBack);
  const isOrdered = (proof: Proof): boolean => {
    if (proof.by === 'person' || proof.by === 'use') return false;
    if (proof.by === 'rehearsal' || proof.by === 'lamp') return rehearse;
    return proof.by !== 'put-back' || changeable.has(proof.send.device);
  };
  return [...items].flatMap((item) =>
    item.proofs.filter((proof) => isOrdered(proof) && isWanted(item, proof)).map((proof) => ({ item, proof })),
  );
}

/**
 * One run of the line check: independent devices side by side, one thing at a time at each. Commands that change a device come after the
 * rehearsal, which says whether they can be put back. A pause ends what is under way and keeps what is left.
 */
export class CheckRun {
  private readonly left: Map<string, CheckWork>;
  private working: AbortController | undefined;
  /** Resolves when nothing of it is under way any more. */
  ended: Promise<void> = Promise.resolve();
  private workedMs = 0;
  private workedSince = 0;
  readonly total: number;
  state: 'running' | 'paused' = 'paused';

  constructor(
    work: readonly CheckWork[],
    private readonly sources: RunSources,
    /** How much was done before the program was last ended. */
    private readonly doneBefore = 0,
  ) {
    this.left = new Map(work.map((each) => [keyOf(each), each]));
    this.total = work.length + doneBefore;
  }

  get done(): number {
    return this.total - this.left.size;
  }

  /** How long what is left will take at the pace so far, in milliseconds; `undefined` while there is no pace. */
  get leftMs(): number | undefined {
    const done = this.done - this.doneBefore;
    const worked = this.workedMs + (this.workedSince === 0 ? 0 : performance.now() - this.workedSince);
    return done < 3 ? undefined : (worked / done) * this.left.size;
  }

  begin(): void {
    if (this.state === 'running') return;
    this.state = 'running';
    this.workedSince = performance.now();
    const working = new AbortController();
    // Every test and every look-up of a run listens to it.
    setMaxListeners(0, working.signal);
    this.working = working;
    this.sources.onState();
    // A trial that a pause has left under way has to be over before anything is tried again: it would be taken for the state before.
    const work = this.ended.then(() => (working.signal.aborted ? undefined : this.work(working.signal)));
    this.ended = work
      .catch((cause: unknown) => this.sources.log.error({ cause }, 'A part of the line check failed.'))
      .then(() => {
        if (working.signal.aborted) return;
        this.halt();
        this.sources.onOver();
      });
  }

  pause(): void {
    if (this.state === 'paused') return;
    this.working?.abort();
    this.halt();
    this.sources.onState();
  }

  private halt(): void {
    this.state = 'paused';
    this.workedMs += performance.now() - this.workedSince;
    this.workedSince = 0;
    this.working = undefined;
  }

  private async work(signal: AbortSignal): Promise<void> {
    const all = [...this.left.values()];
    const by = (...kinds: Proof['by'][]) => all.filter(({ proof }) => kinds.includes(proof.by));
    await Promise.all([
      this.test(by('test'), signal),
      this.inLanes(by('reported', 'names', 'screen', 'gear', 'inlet', 'query'), signal),
    ]);
    // Stand-ins that start would disturb the round trips that are measured.
    await this.rehearse(by('rehearsal', 'lamp'), signal);
    await this.inLanes(by('put-back'), signal);
  }

  private end(work: CheckWork, seen: Seen): void {
    if (this.left.delete(keyOf(work))) this.sources.onResult(work, seen);
  }

  /** One proof at a time at each device. */
  private async inLanes(work: readonly CheckWork[], signal: AbortSignal): Promise<void> {
    const lanes = new Map<string, CheckWork[]>();
    for (const each of work) {
      const device = each.item.devices[0] ?? '';
      const lane = lanes.get(device);
      if (lane) lane.push(each);
      else lanes.set(device, [each]);
    }
    await Promise.all(
      [...lanes.values()].map(async (lane) => {
        for (const each of lane) {
          if (signal.aborted) return;
          this.end(each, await this.sources.prove(each));
        }
      }),
    );
  }

  private async test(work: readonly CheckWork[], signal: AbortSignal): Promise<void> {
    const { tools, tagOf } = this.sources;
    const byDevice = new Map(work.map((each) => [each.item.devices[0] ?? '', each]));
    const devices = [...byDevice.keys()].flatMap((id) => tagOf(id) ?? []);
    if (!tools || devices.length === 0) return;
    const lines = new Map<string, TestLine[]>();
    const onLine = (line: TestLine) => {
      const own = lines.get(line.device) ?? [];
      lines.set(line.device, own);
      const each = byDevice.get(line.device);
      if (line.stage) return void own.push(line);
      const exchange = line.exchange && line.exchange.length > 0 ? { exchange: [...line.exchange] } : {};
      if (each && !signal.aborted) this.end(each, { ...verdictOf(own), ...exchange });
    };
    const request = { devices, beside: false, last: 'reports', interrupt: false } as const;
    await tools.test(request, onLine, signal).catch((cause: unknown) => {
      if (signal.aborted) return;
      this.sources.log.warn({ cause }, 'The connection tests of the line check ended early.');
    });
    const text = 'The connection test did not come to an end.';
    if (!signal.aborted) for (const each of work) this.end(each, { state: 'unproved', text });
  }

  private async rehearse(work: readonly CheckWork[], signal: AbortSignal): Promise<void> {
    if (work.length === 0) return;
    const { checker, log } = this.sources;
    const items = [...new Set(work.map(({ item }) => item.id))];
    let failed: string | undefined;
    await checker
      .rehearse(
        items,
        ({ item, by, fingerprint: _, ...seen }) => {
          const each = this.left.get(`${item} ${by}`);
          if (each && !signal.aborted) this.end(each, seen);
        },
        signal,
      )
      .catch((cause: unknown) => {
        if (signal.aborted) return;
        log.warn({ cause }, 'The rehearsal of the line check ended early.');
        failed = 'The rehearsal ended early. Try again; the report for support has the reason.';
      });
    const text = failed ?? 'The show has changed since the plan was made.';
    if (!signal.aborted) for (const each of work) this.end(each, { state: 'unproved', text });
  }
}

/** What a connection test found, as one result: the stage that failed, or was worth a look, or how quickly it answered. */
function verdictOf(lines: readonly TestLine[]): Seen {
  const found = lines.flatMap(({ stage, verdict }) => (stage && verdict ? [{ stage, verdict }] : []));
  const trip = found.find(({ stage }) => stage === 'roundTrip')?.verdict;
  const ms = trip?.halfMs === undefined ? {} : { ms: trip.halfMs };
  for (const is of ['failed', 'doubtful'] as const) {
    const worst = found.find(({ verdict }) => verdict.is === is)?.verdict;
    if (!worst) continue;
    const { seen: text, trouble, mends = [] } = worst;
    return {
      state: is,
      text,
      ...(trouble ? { trouble } : {}),
      ...(mends.length > 0 ? { mends: [...mends] } : {}),
      ...ms,
    };
  }
  if (found.length === 0) return { state: 'unproved', text: 'The connection test did not come to an end.' };
  const telling = trip?.is === 'passed' ? trip : found.at(-1)?.verdict;
  return { state: 'passed', text: telling?.seen ?? 'It passed.', ...ms };
}
