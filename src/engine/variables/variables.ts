import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { scalarSchema } from '../../core/driver';
import type { Scalar } from '../../core/result';
import { ownId, variableOrders, variableReading, type VariableRecord } from '../../core/show';
import { changed, firstValue } from '../../core/variables';
import type { Log } from '../../log';
import type { Aims } from '../aim/aims';
import type { ReadingStore } from '../devices/readings';
import type { SendListener } from '../devices/send-book';
import type { ShowChange } from '../parts';
import type { Order } from '../presses/dispatcher';
import type { OwnOrders } from '../presses/own-orders';
import { replaceFile } from '../record/replace-file';
import type { RunningShow } from '../show/running-show';

interface Sources {
  readonly dataDir: string;
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly own: OwnOrders;
  readonly aims: Aims;
  readonly log: Log;
}

const keptSchema = z.record(z.string(), scalarSchema);
/** Changes that come at once are written once. */
const writeAfterMs = 20;

/** The variables of the show: their values are readings of the program itself, and its commands set them. They outlive the program. */
export class Variables {
  /** By variable, what it was set to; one that nobody has set has its initial value. */
  private values: Map<string, Scalar>;
  /** What was set when the rehearsal began: it is so again afterwards. */
  private usual: ReadonlyMap<string, Scalar> | undefined;
  /** By variable, the key under which it is told. */
  private readonly told = new Map<string, string>();
  private readonly path: string;
  private writing: NodeJS.Timeout | undefined;
  /** Values are put back after a rehearsal: nobody has changed anything. */
  isPuttingBack = false;

  constructor(private readonly sources: Sources) {
    this.path = join(sources.dataDir, 'variables.json');
    this.values = this.read();
    sources.aims.listen({
      onRaise: () => (this.usual = new Map(this.values)),
      onCurtain: () => this.endRehearsal(),
    });
  }

  onShow(change: ShowChange): void {
    if (change.kind !== 'variable') return;
    const { id } = change;
    const record = this.sources.show.variables.get(id);
    const before = this.told.get(id);
    this.told.delete(id);
    // Its faces are made anew, as its name, unit or choices may have changed although its value has not.
    if (before !== undefined) this.sources.readings.report(ownId, [], Date.now(), [before]);
    if (!record) return;
    // Deleting it and taking that back keeps its value; only the start of the program resets it.
    this.told.set(id, variableReading(record.data.key));
    for (const [command, { verb }] of variableOrders([record]))
      this.sources.own.serve([command], (order, listener) => this.carryOut(id, verb, order, listener));
    this.tell(record);
  }

  async stop(): Promise<void> {
    if (this.usual) this.endRehearsal();
    if (this.writing) await this.writeNow();
  }

  private valueOf({ id, data }: VariableRecord): Scalar {
    return firstValue(data.value, this.values.get(id));
  }

  private carryOut(
    id: string,
    verb: Parameters<typeof changed>[2],
    { prepared: { given } }: Order,
    listener: SendListener,
  ): boolean {
    const record = this.sources.show.variables.get(id);
    if (!record) {
      listener({ outcome: 'lost', why: 'missing', ms: 0, reason: 'This variable no longer exists.' });
      return false;
    }
    const next = changed(record.data.value, this.valueOf(record), verb, verb === 'step' ? given.by : given.value);
    if (!next.ok) {
      listener({ outcome: 'lost', why: 'bad-value', ms: 0, reason: `${record.data.name} ${next.error}.` });
      return false;
    }
    if (verb === 'reset') this.values.delete(id);
    else this.values.set(id, next.value);
    this.tell(record);
    if (!this.usual) this.write();
    listener({ outcome: 'confirmed', why: 'accepted', ms: 0 });
    return true;
  }

  private tell(record: VariableRecord): void {
    const change = { key: variableReading(record.data.key), value: this.valueOf(record) };
    this.sources.readings.report(ownId, [change], Date.now());
  }

  /** What was set while rehearsing counts for nothing. */
  private endRehearsal(): void {
    if (!this.usual) return;
    this.values = new Map(this.usual);
    this.usual = undefined;
    this.isPuttingBack = true;
    for (const record of this.sources.show.variables.values()) this.tell(record);
    this.isPuttingBack = false;
  }

  private write(): void {
    this.writing ??= setTimeout(() => void this.writeNow(), writeAfterMs);
  }

  private async writeNow(): Promise<void> {
    clearTimeout(this.writing);
    this.writing = undefined;
    const { variables } = this.sources.show;
    const kept = Object.fromEntries([...this.values].filter(([id]) => !variables.get(id)?.data.resets));
    try {
      await replaceFile(this.path, JSON.stringify(kept));
    } catch (cause) {
      const text = 'The variables could not be saved. They will have their former values if the program restarts.';
      this.sources.log.warn({ cause }, text);
    }
  }

  private read(): Map<string, Scalar> {
    let text: string;
    try {
      text = readFileSync(this.path, 'utf8');
    } catch {
      // There is none before the first variable is set.
      return new Map();
    }
    try {
      return new Map(Object.entries(keptSchema.parse(JSON.parse(text))));
    } catch (cause) {
      this.sources.log.warn({ cause }, 'The saved variables cannot be read. They start with their initial values.');
      return new Map();
    }
  }
}
