import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { commandText, type DriverDocument } from '../../core/driver';
import { faceOf, type FaceView } from '../../core/face';
import type { CheckSend } from '../../core/line-check';
import type { PressedControl } from '../../core/live';
import type { FinalOutcome } from '../../core/press';
import type { Scalar } from '../../core/result';
import { isWell } from '../../core/session';
import { ownId, type ControlRecord, type DeviceRecord, type ReadingRef, type ShowRecord } from '../../core/show';
import { shippedDrivers } from '../../drivers';
import { Engine, type SentCommand } from '../../engine';
import { canStandIn, Rehearsal } from '../../standins';
import { commitEdit, installDriver, openShow } from '../../store';

/** How long the stand-ins have to be connected. */
const settleMs = 15_000;
const lookMs = 25;
/** How long a control is held that was held: how long it was then is not in the record. */
const holdMs = 400;
/** How long a new stand-in may take to be noticed, and to be connected. */
const renewMs = 6000;

interface SendEnd {
  readonly outcome: FinalOutcome;
  readonly reason: string | undefined;
  readonly ms: number;
  /** Two digits a byte. */
  readonly bytes?: string;
}

/**
 * An engine with stand-ins of its own for every device of a show, in a folder of its own that goes with it: what is sent here
 * reaches nothing else. It is the engine that runs the show, so that what is proved here is proved with the same code.
 */
export class PrivateRig {
  private sent = 0;
  private readonly listeners = new Set<(sent: readonly SentCommand[]) => void>();

  private constructor(
    private readonly dataDir: string,
    private readonly engine: Engine,
    private readonly standins: Rehearsal,
  ) {
    engine.api.presses.listen((sent) => this.listeners.forEach((listener) => listener(sent)));
  }

  static async open(records: readonly ShowRecord[], documents: readonly unknown[]): Promise<PrivateRig> {
    const dataDir = mkdtempSync(join(tmpdir(), 'sorrelfinch-check-'));
    const standins = new Rehearsal();
    const arrange = (devices: readonly DeviceRecord[]) => standins.arrange(devices.map(orderOf));
    const rehearsals = { arrange, end: () => standins.stop() };
    let rig: PrivateRig | undefined;
    try {
      const { db, close } = openShow(dataDir);
      try {
        for (const document of documents) installDriver(db, (document as { id: string }).id, document, 0);
        const changes = records.map((record) => ({ op: 'add', record }) as const);
        const done = commitEdit(db, { title: 'Line check', changes }, 'linecheck', 0);
        if (!done.ok) throw new Error(done.error.message);
      } finally {
        close();
      }
      const engine = new Engine({ dataDir, drivers: shippedDrivers, rehearsals, isPrivate: true });
      rig = new PrivateRig(dataDir, engine, standins);
      await engine.start();
      await rig.settled();
      return rig;
    } catch (cause) {
      if (rig) await rig.close();
      else {
        await standins.stop();
        rmSync(dataDir, { recursive: true, force: true });
      }
      throw cause;
    }
  }

  async close(): Promise<void> {
    await this.engine.stop();
    await this.standins.stop();
    rmSync(this.dataDir, { recursive: true, force: true });
  }

  device(id: string): DeviceRecord | undefined {
    return this.engine.running.show.deviceOf(id);
  }

  deviceByTag(tag: string): DeviceRecord | undefined {
    return this.engine.api.deviceByTag(tag);
  }

  /** The listener hears of every command of a press that is over. Returns what ends that. */
  onSent(listener: (sent: readonly SentCommand[]) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** A command in words. */
  says(device: string, command: string, params: Readonly<Record<string, Scalar>>): string {
    const document = this.documentOf(device);
    return document ? commandText(document, command, params) : command;
  }

  /** Presses a control as recorded, and resolves with its outcome. A held press is released after `holdMs`. */
  press(
    { page, control, gesture, context, given }: PressedControl,
    who: string,
    isConfirmed = true,
  ): Promise<{ readonly outcome?: string; readonly reason?: string }> {
    const { presses } = this.engine.api;
    if (!presses.find(page, control, context))
      return Promise.resolve({ reason: 'The control is no longer on this page.' });
    const id = `play-${(this.sent += 1)}`;
    const more = { ...(context === undefined ? {} : { context }), ...(given === undefined ? {} : { given }) };
    return new Promise((resolve) => {
      presses.press({ id, page, control, gesture, guard: isConfirmed, who, alone: true, ...more }, (report) => {
        if (!('sends' in report)) return;
        const { outcome, reason } = report;
        resolve(reason === undefined ? { outcome } : { outcome, reason });
      });
      if (gesture === 'hold') setTimeout(() => this.engine.release(id), holdMs);
    });
  }

  readonly documentOf = (id: string): DriverDocument | undefined => this.engine.running.show.documentOf(id);

  readonly roleOf = (id: string): string | undefined => this.engine.running.show.roleOf(id);

  /** Why a device's stand-in cannot be spoken to, if it cannot. */
  notReached(id: string): string | undefined {
    // The program itself is always there.
    if (id === ownId) return undefined;
    const link = this.engine.running.statuses.get(id)?.link;
    if (link && isWell(link.word)) return undefined;
    return `Its stand-in was not connected (${link?.word ?? 'missing'}).`;
  }

  /** The value of a reading, if it is fresh. */
  readonly valueNow = ({ device, key }: ReadingRef): Scalar | undefined =>
    this.engine.running.readings.fresh(device, key);

  /** Every fresh reading of a device. */
  readingsOf(device: string): ReadonlyMap<string, Scalar> {
    const all = Object.entries(this.engine.running.readings.view(device));
    return new Map(
      all.flatMap(([key, { value, freshness }]) =>
        value !== undefined && freshness === 'fresh' ? [[key, value]] : [],
      ),
    );
  }

  /** What a control shows now. */
  face(data: ControlRecord['data']): FaceView {
    const { readings } = this.engine.running;
    return faceOf(data, { readingNow: (ref) => readings.get(ref), documentOf: this.documentOf, now: Date.now() });
  }

  /** Sends a command and resolves with its end. What it starts and somebody would have to stop is stopped, after `meanwhile`. */
  async send(
    { device, command, params }: CheckSend,
    meanwhile?: () => Promise<unknown>,
    who = 'line check',
  ): Promise<SendEnd> {
    const end = await this.sendOnce({ device, command, params }, who);
    await meanwhile?.();
    const stop = this.documentOf(device)?.commands[command]?.stop;
    if (!stop) return end;
    const taken = this.documentOf(device)?.commands[stop.command]?.params ?? {};
    const same = Object.entries(params).filter(([name]) => name in taken);
    await this.sendOnce({ device, command: stop.command, params: { ...Object.fromEntries(same), ...stop.params } });
    return end;
  }

  private sendOnce({ device: id, command, params }: CheckSend, who = 'line check'): Promise<SendEnd> {
    const device = this.device(id);
    if (!device) return Promise.resolve({ outcome: 'lost', reason: 'The device is no longer in the rig.', ms: 0 });
    const request = {
      id: `check-${(this.sent += 1)}`,
      device,
      command,
      params,
      guard: true,
      gesture: 'tap',
      who,
    } as const;
    return new Promise((resolve) =>
      this.engine.api.presses.command(request, (report) => {
        if (!('sends' in report)) return;
        const { outcome, ms, reason } = report;
        const [first] = report.sends;
        const bytes = first?.bytes === undefined ? {} : { bytes: first.bytes };
        resolve({ outcome, ms, reason: reason ?? first?.reason, ...bytes });
      }),
    );
  }

  /** Puts a device's stand-in into its first state, whatever was done to it, and waits until it is connected again. */
  async renew(device: string): Promise<void> {
    // Nothing stands in for a service of the program: the private engine has its own.
    if (device === ownId || this.documentOf(device)?.link.kind === 'internal') return;
    await this.standins.renew(device);
    // The engine notices, has another one arranged and calls it.
    await this.until(() => this.notReached(device) !== undefined, renewMs);
    await this.until(() => this.notReached(device) === undefined, renewMs);
  }

  /** Resolves when every device that can be stood in for is connected, or after a while. */
  private async settled(): Promise<void> {
    const { show, statuses } = this.engine.running;
    await this.until(
      () =>
        [...show.devices.values()].every(({ id, data }) => {
          const word = statuses.get(id)?.link.word;
          return !data.enabled || !canStandIn(data.driver) || (word !== undefined && isWell(word));
        }),
      settleMs,
    );
  }

  /** Looks again and again whether something holds, until it is ended. */
  watch(holds: () => boolean): { readonly isSeen: () => boolean; readonly end: () => void } {
    let isSeen = holds();
    const timer = setInterval(() => (isSeen ||= holds()), lookMs);
    return { isSeen: () => isSeen, end: () => clearInterval(timer) };
  }

  /** Resolves with true as soon as something holds, or with false after a time in milliseconds. */
  async until(holds: () => boolean, withinMs: number): Promise<boolean> {
    const deadline = performance.now() + withinMs;
    while (!holds()) {
      if (performance.now() > deadline) return false;
      await new Promise((resolve) => setTimeout(resolve, lookMs));
    }
    return true;
  }
}

const orderOf = ({ id, data: { tag, name, driver, through } }: DeviceRecord) => ({
  id,
  tag,
  name,
  driver,
  ...(through ? { through: through.device } : {}),
});
