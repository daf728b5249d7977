import type { DeviceStatus } from '../core/live';
import type { Link } from '../core/session';
import type { ControlRecord, DeviceRecord, PageRecord } from '../core/show';

/** A record of the running show is new, changed or gone. It is told after the change has been entered. */
export type ShowChange =
  | { readonly kind: 'show' }
  | Changed<'device', DeviceRecord>
  | Changed<'page', PageRecord>
  | Changed<'control', ControlRecord>
  | {
      readonly kind: 'tie' | 'panel' | 'macro' | 'snapshot' | 'preset' | 'binding' | 'variable' | 'watch' | 'inlet';
      readonly id: string;
    };

interface Changed<Kind, Record> {
  readonly kind: Kind;
  readonly id: string;
  readonly now: Record | undefined;
  readonly before: Record | undefined;
}

/** The link of a device has changed. */
export interface LinkChange {
  readonly device: string;
  readonly status: DeviceStatus;
  readonly before: Link['word'];
  /** It is on its way to be up. */
  readonly isPassing: boolean;
}

/** One part of the engine: what it does at the start, at the end, and when something in the show or at the devices changes. */
export interface Part {
  start?(): void | Promise<void>;
  stop?(): void | Promise<void>;
  /** Readings of a device have changed. Must be quick: every report of every device comes by here. */
  onReadings?(device: string, keys: readonly string[]): void;
  onLink?(change: LinkChange): void;
  onShow?(change: ShowChange): void;
}

type Listening<K extends keyof Part> = Part & { readonly [P in K]-?: NonNullable<Part[P]> };

/**
 * The parts of an engine, in the order in which they were added. They are told of changes and started in this order and stopped in the
 * reverse, each once, also when a start has failed half way.
 */
export class Parts {
  private readonly all: Part[] = [];
  private readonly readers: Listening<'onReadings'>[] = [];
  private readonly linkListeners: Listening<'onLink'>[] = [];
  private readonly showListeners: Listening<'onShow'>[] = [];
  private stopping: Promise<void> | undefined;

  /** @param onFault told of a part that could not be stopped */
  constructor(private readonly onFault: (message: string, cause: unknown) => void) {}

  add<T extends Part>(part: T): T {
    this.all.push(part);
    if (part.onReadings) this.readers.push(part as Listening<'onReadings'>);
    if (part.onLink) this.linkListeners.push(part as Listening<'onLink'>);
    if (part.onShow) this.showListeners.push(part as Listening<'onShow'>);
    return part;
  }

  /** Starts them in their order and waits for all. When one fails, all are stopped, and the promise rejects with its reason. */
  async start(): Promise<void> {
    try {
      await Promise.all(this.all.map((part) => part.start?.()));
    } catch (error) {
      await this.stop();
      throw error;
    }
  }

  /** Stops them, the last one first. One that fails does not keep the others from being stopped. */
  stop(): Promise<void> {
    return (this.stopping ??= this.stopAll());
  }

  readonly onReadings = (device: string, keys: readonly string[]): void => {
    for (const part of this.readers) part.onReadings(device, keys);
  };

  readonly onLink = (change: LinkChange): void => {
    for (const part of this.linkListeners) part.onLink(change);
  };

  readonly onShow = (change: ShowChange): void => {
    for (const part of this.showListeners) part.onShow(change);
  };

  private async stopAll(): Promise<void> {
    for (const part of this.all.toReversed()) {
      try {
        await part.stop?.();
      } catch (error) {
        this.onFault(`${part.constructor.name} could not be stopped.`, error);
      }
    }
  }
}
