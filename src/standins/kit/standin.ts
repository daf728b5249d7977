import { z } from 'zod';
import { faultsSchema, noFaults, type Faults } from './faults';
import type { HouseSync } from './house-sync';
import type { StandinSite } from './http';

export interface StandinOptions {
  readonly tag: string;
  readonly sync: HouseSync;
  readonly host: string;
  /** 0 picks a free port. */
  readonly port: number;
}

const powerSchema = z.strictObject({ on: z.boolean() });
const moveSchema = z.strictObject({ port: z.number().int().min(0).max(65_535) });
const patchSchema = faultsSchema.partial();

/**
 * What all stand-ins share: power, faults, the port and who watches. Each kind has its own model, speaks its own protocol,
 * and draws its own page.
 */
export abstract class Standin implements StandinSite {
  readonly tag: string;
  protected faults: Faults = noFaults;
  private readonly watchers = new Set<() => void>();
  private readonly stopFrames: () => void;
  private portNow: number;
  private isOn = false;
  private isOpen = false;
  private changing: Promise<void> = Promise.resolve();

  constructor(protected readonly options: StandinOptions) {
    this.tag = options.tag;
    this.portNow = options.port;
    this.stopFrames = options.sync.onFrame(() => this.frame());
  }

  /** The number of the house sync's frame that passes. */
  protected get houseFrame(): number {
    return this.options.sync.frame;
  }

  abstract readonly title: string;
  abstract page(): string;
  /** What it would look like from outside. */
  protected abstract own(): object;
  /** Operates it by hand; returns the reason when it refuses. */
  protected abstract byHand(body: unknown): string | undefined;
  /** Begins to listen on a port; resolves with the port that it got. */
  protected abstract open(host: string, port: number): Promise<number>;
  protected abstract shut(): Promise<void>;
  protected abstract get controllers(): number;
  /** Breaks every connection without a goodbye; the port stays open. */
  abstract drop(): void;
  /** For tests: says bytes as they are to every controller. */
  abstract sendRaw(bytes: Uint8Array): void;
  /** One frame of the house sync passes. */
  protected frame(): void {}
  /** Faults were switched on or off; `port` and connections follow by themselves. */
  protected onFaults(): void {}

  get port(): number {
    return this.portNow;
  }

  get view(): Record<string, unknown> {
    return {
      ...this.own(),
      power: this.isOn,
      port: this.portNow,
      controllers: this.controllers,
      faults: this.faults,
    };
  }

  state(): unknown {
    return this.view;
  }

  /** Switches it on or off. Off, its port is closed, as with a device without power; it keeps its settings. */
  setPower(on: boolean): Promise<void> {
    this.isOn = on;
    return this.arrange();
  }

  /** Switches faults on and off. */
  setFaults(patch: Partial<Faults>): Promise<void> {
    const before = this.faults;
    this.faults = { ...before, ...patch };
    this.onFaults();
    // Who is connected would not notice these before it connects again.
    const again = (['otherPassword', 'otherModel', 'taken'] as const).some((key) => this.faults[key] && !before[key]);
    if (again) this.drop();
    return this.arrange();
  }

  /** Moves it to another port, as an address changed by hand or by DHCP would. */
  moveTo(port: number): Promise<void> {
    this.portNow = port;
    return this.arrange(true);
  }

  async operate(verb: string, body: unknown): Promise<string | undefined> {
    switch (verb) {
      case 'operate':
        return this.byHand(body);
      case 'power':
        return this.after(powerSchema, body, ({ on }) => this.setPower(on));
      case 'faults':
        return this.after(patchSchema, body, (patch) => this.setFaults(patch));
      case 'move':
        return this.after(moveSchema, body, ({ port }) => this.moveTo(port));
      case 'drop':
        return void this.drop();
      default:
        return 'Known verbs are operate, power, faults, move and drop.';
    }
  }

  watch(watcher: () => void): () => void {
    this.watchers.add(watcher);
    return () => void this.watchers.delete(watcher);
  }

  async stop(): Promise<void> {
    this.stopFrames();
    await this.setPower(false);
    this.watchers.clear();
  }

  /** Something has changed: tells all who watch. */
  protected tell(): void {
    for (const watcher of this.watchers) watcher();
  }

  private async after<T>(
    schema: z.ZodType<T>,
    body: unknown,
    act: (value: T) => Promise<void>,
  ): Promise<string | undefined> {
    const parsed = schema.safeParse(body);
    if (!parsed.success) return sentence(parsed.error);
    await act(parsed.data);
    return undefined;
  }

  private arrange(moved = false): Promise<void> {
    this.changing = this.changing
      .then(async () => {
        const wanted = this.isOn && !this.faults.refuse;
        if (this.isOpen && (!wanted || moved)) {
          this.isOpen = false;
          await this.shut();
        }
        if (wanted && !this.isOpen) {
          this.portNow = await this.open(this.options.host, this.portNow);
          this.isOpen = true;
        }
      })
      .finally(() => this.tell());
    const done = this.changing;
    // A port that is in use fails this call, not the next one.
    this.changing = done.catch(() => undefined);
    return done;
  }
}

const sentence = (error: z.ZodError): string =>
  error.issues.map((issue) => `${issue.path.join('.') || 'body'}: ${issue.message}`).join('; ');

/** Reads what is to be done by hand; refuses what is not of the schema with a sentence. */
export function readByHand<T>(schema: z.ZodType<T>, body: unknown, act: (value: T) => string | undefined) {
  const parsed = schema.safeParse(body);
  return parsed.success ? act(parsed.data) : sentence(parsed.error);
}
