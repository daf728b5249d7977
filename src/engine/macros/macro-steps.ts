import type { DriverParameter } from '../../core/driver';
import { fitted } from '../../core/lamp';
import type { ScreenAct } from '../../core/live';
import type { DueStep } from '../../core/macro';
import { dryReason } from '../../core/press';
import type { Scalar } from '../../core/result';
import { isLive, resolveArgument, type MacroRecord, type MacroSend } from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import type { RunDone } from '../presses/macro-request';
import { runOwner } from '../presses/press-run';
import type { Presses } from '../presses/presses';
import { lookUpIn } from '../devices/look-up';
import type { RunningShow } from '../show/running-show';
import type { MacroRun, RunRequest, StepEnded } from './macro-run';
import type { Pulses } from './pulses';

/** Has all screens of a panel, or of every panel, do something. */
export interface ScreenActs {
  onPanels(panel: string | undefined, act: ScreenAct): void;
}

export interface StepSources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly presses: Presses;
  readonly screens: ScreenActs;
  readonly newId: () => string;
}

interface Sources extends StepSources {
  readonly pulses: Pulses;
  /** Begins another macro. */
  readonly begin: (request: RunRequest, done: RunDone) => void;
}

/** What the steps of macros do: commands, pulses, other macros, screens. */
export class MacroSteps {
  private readonly pulses: Pulses;

  constructor(private readonly sources: Sources) {
    this.pulses = sources.pulses;
  }

  /** Carries out a step whose time has come. `left` is told when its bytes leave, `end` how it ended. */
  carryOut(run: MacroRun, due: DueStep, left: () => void, end: StepEnded): void {
    const { does } = due.step;
    switch (does.is) {
      case 'send':
        return due.step.half ? this.pulse(run, due, does.send, left, end) : this.send(run, does.send, left, end);
      case 'macro': {
        const { id: by, who, aim } = run.request;
        const params = this.argumentsNow(does.params, run.values);
        if (!params.ok) return end('lost', 'bad-value', params.reason);
        left();
        return this.sources.begin(
          { id: this.sources.newId(), macro: does.macro, params: params.given, who, aim, by },
          (outcome, why, _ms, reason) => end(outcome, why, reason),
        );
      }
      default: {
        if (run.request.aim === 'dry') return end('skipped', 'dry', dryReason);
        left();
        this.sources.screens.onPanels(does.panel, this.screenActOf(does));
        return end('sent', 'one-way');
      }
    }
  }

  private screenActOf(does: Exclude<DueStep['step']['does'], { is: 'send' | 'macro' }>): ScreenAct {
    switch (does.is) {
      case 'page':
        return { do: 'go', page: does.page };
      case 'note':
        return { do: 'note', id: this.sources.newId(), text: does.text };
      case 'shift':
        return { do: 'shift', page: does.page, shift: does.shift };
      case 'pick':
        return { do: 'pick', page: does.page, zone: does.zone, device: does.device };
      case 'brightness':
        return { do: 'dim', brightness: does.percent };
    }
  }

  /** One half of a pulse: its turning off is owed from before it is turned on until it has been turned off. */
  private pulse(run: MacroRun, due: DueStep, send: MacroSend, left: () => void, end: StepEnded): void {
    const { id, aim } = run.request;
    const key = `${due.segment}.${due.round}.${due.step.step}`;
    if (due.step.half === 'off') {
      return this.send(run, send, left, (outcome, why, reason) => {
        if (outcome === 'lost' || outcome === 'late' || outcome === 'refused') this.pulses.missed(id, key);
        else this.pulses.off(id, key);
        end(outcome, why, reason);
      });
    }
    const pulse = pulseOf(run.macro, due.step.step);
    const off = pulse && this.argumentsNow(pulse.off.params, run.values, this.shapesOf(pulse.off));
    if (!pulse || !off?.ok)
      return off?.ok === false
        ? end('lost', 'bad-value', off.reason)
        : end('lost', 'missing', 'This step is no longer in the macro.');
    const { device, command } = pulse.off;
    const owner =
      aim === 'dry' ? undefined : this.pulses.on(id, key, { device, command, params: off.given }, pulse.forMs);
    const ended: StepEnded = (outcome, why, reason) => {
      if (outcome === 'skipped') this.pulses.off(id, key);
      end(outcome, why, reason);
    };
    this.send(run, send, left, ended, owner);
  }

  private send(
    run: MacroRun,
    { device, command, params }: MacroSend,
    left: () => void,
    end: StepEnded,
    /** Who owes its turning off, beside the run. */
    owner?: string,
  ): void {
    const record = this.sources.show.deviceOf(device);
    const given = this.argumentsNow(params, run.values, this.shapesOf({ device, command }));
    if (!record) return end('lost', 'missing', 'Its device is not in the rig.');
    if (!given.ok) return end('lost', 'bad-value', given.reason);
    const { who, aim, id } = run.request;
    const title = this.sources.show.driverOf(record)?.commands.get(command)?.command.title ?? command;
    this.sources.presses.command(
      {
        id: this.sources.newId(),
        gesture: 'tap',
        guard: true,
        who,
        device: record,
        command,
        params: given.given,
        label: `${run.macro.data.name}: ${record.data.tag} ${title}`,
        aim,
        run: id,
        owners: [runOwner(id), ...(owner === undefined ? [] : [owner])],
        onLeft: left,
      },
      ({ outcome, reason, why, note }) => {
        // A report that came after the end is no second end.
        if (outcome !== 'taken' && outcome !== 'waiting' && note === undefined) end(outcome, why ?? 'missing', reason);
      },
    );
  }

  private shapesOf({ device, command }: Pick<MacroSend, 'device' | 'command'>) {
    return this.sources.show.documentOf(device)?.commands[command]?.params;
  }

  /** @param shapes of a command; those of a macro have none */
  private argumentsNow(
    params: MacroSend['params'],
    values: Readonly<Record<string, Scalar>>,
    shapes: Readonly<Record<string, DriverParameter>> = {},
  ) {
    const { readings, show } = this.sources;
    const lookUp = lookUpIn(show, readings, values);
    const given: Record<string, Scalar> = {};
    for (const [name, argument] of Object.entries(params)) {
      const value = resolveArgument(argument, values, lookUp);
      const shape = shapes[name];
      if (value === undefined)
        return {
          ok: false,
          reason: `“${shape?.title ?? name}” has no value: what it is taken from is not known now.`,
        } as const;
      given[name] = shape && isLive(argument) ? fitted(value, shape) : value;
    }
    return { ok: true, given } as const;
  }
}

function pulseOf({ data }: MacroRecord, step: string) {
  for (const { steps } of data.segments) {
    const does = steps.find(({ id }) => id === step)?.does;
    if (does?.is === 'pulse') return does;
  }
  return undefined;
}
