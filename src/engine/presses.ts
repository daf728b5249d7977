import { encodeCommand, type CompiledDriver } from '../core/driver';
import type { Aim, AsRunSend, Gesture, PressReport } from '../core/live';
import { fail, ok, type Problem, type Result, type Scalar } from '../core/result';
import { worstOutcome, type FinalOutcome } from '../core/session';
import { resolveArgument, type ControlRecord, type SendSpec } from '../core/show';
import type { AsRun } from './as-run';
import type { DeviceSession, PreparedSend } from './device-session';
import type { RunningShow } from './running-show';

export interface PressRequest {
  readonly id: string;
  readonly page: string;
  readonly control: string;
  readonly gesture: Gesture;
  readonly who: string;
}

/** How a press ended, with each of its sends. */
export interface PressResult extends PressReport {
  readonly outcome: FinalOutcome;
  readonly sends: readonly AsRunSend[];
}

interface OpenSend extends Omit<AsRunSend, 'outcome'> {
  outcome: FinalOutcome | undefined;
  ms: number;
  reason?: string;
}

type Listener = (report: PressReport | PressResult) => void;

const rememberedPresses = 2000;

/** From a press to the devices and back to its outcome. */
export class Presses {
  /** The last presses by id, so that each acts once and its end can be asked for. */
  private readonly known = new Map<string, PressReport | PressResult>();
  /** Who waits for the end of a press that is under way. */
  private readonly waiting = new Map<string, Listener[]>();
  private readonly prepared = new WeakMap<
    SendSpec,
    { readonly driver: CompiledDriver; readonly result: Result<PreparedSend, Problem> }
  >();

  constructor(
    private readonly show: RunningShow,
    private readonly sessions: ReadonlyMap<string, DeviceSession>,
    private readonly asRun: AsRun,
    private readonly aim: () => Aim,
    private readonly labelOf: (control: ControlRecord) => string,
  ) {}

  /** Tells how a press stands and, if it is under way, how it ends. False when no such press is known here. */
  follow(id: string, listener: Listener): boolean {
    const known = this.known.get(id);
    if (!known) return false;
    this.waiting.get(id)?.push(listener);
    listener(known);
    return true;
  }

  /** The control of a press, if it is on that page. */
  find(page: string, control: string): ControlRecord | undefined {
    const record = this.show.controls.get(control);
    return record?.data.page === page ? record : undefined;
  }

  /**
   * Acts on a press at once. The listener hears `taken` or `waiting` unless it ends at once, then the outcome. A press
   * whose id was used before acts no second time; its listener hears of the first.
   */
  press(request: PressRequest, listener: Listener): void {
    if (this.follow(request.id, listener)) return;
    const control = this.find(request.page, request.control);
    if (!control) {
      const missing = {
        t: 'press',
        id: request.id,
        outcome: 'lost',
        ms: 0,
        reason: 'There is no such control any more.',
        sends: [],
      } as const;
      this.remember(missing);
      return listener(missing);
    }
    const aim = this.aim();
    const startedAt = performance.now();
    const sends: OpenSend[] = [];
    const listeners = [listener];
    const tell = (report: PressReport | PressResult) => {
      this.remember(report);
      for (const each of listeners) each(report);
    };
    let open = 1;
    const finished = () => {
      open -= 1;
      if (open > 0) return;
      const final = sends.map((send): AsRunSend => ({ ...send, outcome: send.outcome ?? 'lost' }));
      const worst = worstOutcome(final.map((send) => send.outcome));
      const ms = performance.now() - startedAt;
      const reason = final.find((send) => send.outcome === worst)?.reason;
      const result: PressResult = { t: 'press', id: request.id, outcome: worst, ms, reason, sends: final };
      this.waiting.delete(request.id);
      tell(result);
      this.record(request, control, aim, result);
    };
    for (const spec of control.data.responses.tap) {
      open += 1;
      this.send(control, spec, aim, sends, finished, (note) => this.note(request, control, note, tell));
    }
    if (open > 1) {
      this.waiting.set(request.id, listeners);
      tell({ t: 'press', id: request.id, outcome: 'waiting', ms: performance.now() - startedAt });
    }
    finished();
  }

  private send(
    control: ControlRecord,
    spec: SendSpec,
    aim: Aim,
    sends: OpenSend[],
    finished: () => void,
    onNote: (text: string) => void,
  ): void {
    const device = this.show.devices.get(spec.device);
    const driver = device && this.show.drivers.get(device.data.driver);
    const prepared = driver && this.prepare(control, spec, driver);
    const entry: OpenSend = {
      device: device?.data.tag ?? '?',
      command: prepared?.ok ? prepared.value.command.title : spec.command,
      text: prepared?.ok ? prepared.value.encoded.text : '',
      outcome: undefined,
      ms: 0,
    };
    sends.push(entry);
    const end = (outcome: FinalOutcome, ms: number, reason?: string) => {
      entry.outcome = outcome;
      entry.ms = ms;
      entry.reason = reason;
      finished();
    };
    if (!prepared)
      return end('lost', 0, 'The device of this command is not in the rig, or its driver is not installed here.');
    if (!prepared.ok) return end('lost', 0, prepared.error.message);
    if (aim === 'dry') return end('skipped', 0, 'Dry: shown and recorded, not sent.');
    const session = this.sessions.get(spec.device);
    if (!session) return end('lost', 0, 'The device is switched off in the rig.');
    session.send(prepared.value, (result) => {
      if (result.note) onNote(`${entry.device}: the report came after ${(result.ms / 1000).toFixed(1)} s.`);
      else end(result.outcome, result.ms, result.reason);
    });
  }

  /** The command with its bytes. Records never change, so that what was made once for a send stays good for it. */
  private prepare(control: ControlRecord, spec: SendSpec, driver: CompiledDriver): Result<PreparedSend, Problem> {
    const known = this.prepared.get(spec);
    if (known?.driver === driver) return known.result;
    const params: Record<string, Scalar> = {};
    for (const [name, argument] of Object.entries(spec.params)) {
      const value = resolveArgument(argument, control.data.values);
      if (value !== undefined) params[name] = value;
    }
    const encoded = encodeCommand(driver, spec.command, params);
    const command = driver.commands.get(spec.command)?.command;
    const result: Result<PreparedSend, Problem> = !encoded.ok
      ? encoded
      : command
        ? ok({ command, encoded: encoded.value })
        : fail({ path: 'command', message: `There is no command “${spec.command}”.` });
    this.prepared.set(spec, { driver, result });
    return result;
  }

  /** A report that came after `late` had been given. */
  private note(request: PressRequest, control: ControlRecord, note: string, tell: Listener): void {
    const known = this.known.get(request.id);
    if (!known) return;
    tell({ ...known, note });
    this.asRun.record({ kind: 'note', text: `${this.labelOf(control)}: ${note}` });
  }

  private record(request: PressRequest, control: ControlRecord, aim: Aim, result: PressResult): void {
    this.asRun.record({
      kind: 'press',
      press: request.id,
      who: request.who,
      page: this.show.pages.get(request.page)?.data.name ?? request.page,
      label: this.labelOf(control),
      aim,
      outcome: result.outcome,
      ms: result.ms,
      reason: result.reason,
      sends: result.sends,
    });
  }

  private remember(report: PressReport | PressResult): void {
    this.known.set(report.id, report);
    if (this.known.size > rememberedPresses) {
      const oldest = this.known.keys().next().value;
      if (oldest !== undefined) this.known.delete(oldest);
    }
  }
}
