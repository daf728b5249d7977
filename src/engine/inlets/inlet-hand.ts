import { requestOfLine, requestOfOsc, valueOfText, type InletError, type InletRequest } from '../../core/inlet';
import { fail, ok, type Result, type Scalar } from '../../core/result';
import { nameOfRecord, ownDevice, variableCommand, type ControlRecord, type InletRecord } from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import { firing } from '../presses/firing';
import type { PressListener } from '../presses/press-book';
import type { Presses } from '../presses/presses';
import type { RunningShow } from '../show/running-show';
import type { Heard } from './inlet-end';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly presses: Presses;
  readonly newId: () => string;
}

/** What came of a request, as one line: `ok confirmed 41 ms`, `value Start tower`, `error not-found …`. */
type Answer = (text: string) => void;

/** Does what somebody asks for over an inlet, in the same way as a press. */
export class InletHand {
  constructor(private readonly sources: Sources) {}

  /** Returns what it was, or why it is nothing; `answer` hears the rest, perhaps before this returns. */
  carryOut(inlet: InletRecord, heard: Heard, answer: Answer): Result<string, InletError> {
    const request = heard.osc ? requestOfOsc(heard.osc.address, heard.osc.args) : requestOfLine(heard.text);
    if (!request.ok) return request;
    if (request.value.do === 'read') return this.read(request.value, answer);
    if (inlet.data.readsOnly)
      return fail({ code: 'not-allowed', message: 'This inlet only allows reading and firing watches.' });
    return this.act(request.value, inlet, answer);
  }

  private read({ tag, key }: Extract<InletRequest, { do: 'read' }>, answer: Answer): Result<string, InletError> {
    const { show, readings } = this.sources;
    const device = show.deviceByTag(tag) ?? show.deviceByTag(tag.toUpperCase());
    if (!device) return notFound(`device ${tag}`);
    const reading = readings.get({ device: device.id, key });
    if (reading?.value === undefined || reading.freshness === 'unknown') return notFound(`reading ${tag} ${key}`);
    answer(reading.freshness === 'fresh' ? `value ${String(reading.value)}` : `stale ${String(reading.value)}`);
    return ok('answered');
  }

  private act(
    request: Exclude<InletRequest, { do: 'read' }>,
    { data: { name, confirms } }: InletRecord,
    answer: Answer,
  ): Result<string, InletError> {
    const { presses, newId, show } = this.sources;
    const who = `inlet ${name}`.slice(0, 60);
    const guard = confirms === true;
    const ended: PressListener = (report) => {
      if (!('sends' in report)) return;
      const reason = report.reason === undefined ? '' : ` ${report.reason}`;
      const well = report.outcome === 'confirmed' || report.outcome === 'sent';
      answer(well ? `ok ${report.outcome} ${Math.round(report.ms)} ms` : `error ${report.outcome}${reason}`);
    };
    const tell = (command: string, params: Record<string, Scalar>) => {
      const label = `SHOW ${command}`;
      const base = { id: newId(), gesture: 'tap', guard, who, device: ownDevice, label } as const;
      presses.command({ ...base, command, params }, ended);
      return ok(command);
    };
    switch (request.do) {
      case 'press': {
        const control = this.control(request.control);
        if (!control) return notFound(`control ${request.control}`);
        const at = { page: control.data.page, control: control.id };
        presses.press({ id: newId(), ...at, gesture: 'tap', guard, alone: true, who }, ended);
        return ok('pressed');
      }
      case 'run': {
        const wanted = request.macro.toLowerCase();
        const macro =
          show.macros.get(request.macro) ??
          [...show.macros.values()].find(({ data }) => data.name.toLowerCase() === wanted);
        if (!macro) return notFound(`macro ${request.macro}`);
        const control = firing({ tap: [], runs: { macro: macro.id, params: {} } });
        const label = macro.data.name;
        presses.fire({ id: newId(), gesture: 'tap', guard, who, control, page: 'Inlet', label }, ended);
        return ok('started');
      }
      case 'call':
        return tell('callUp', { snapshot: request.snapshot });
      case 'fire':
        return tell('fireWatch', { watch: request.watch });
      case 'set':
      case 'step': {
        const variable = [...show.variables.values()].find(
          ({ id, data }) => id === request.variable || data.key.toLowerCase() === request.variable.toLowerCase(),
        );
        if (!variable) return notFound(`variable ${request.variable}`);
        const { key, value } = variable.data;
        return request.do === 'step'
          ? tell(variableCommand('step', key), { by: request.by })
          : tell(variableCommand('set', key), { value: valueOfText(request.value, value.type) });
      }
    }
  }

  /** By its id, or by the name of its page and its label. */
  private control(named: string): ControlRecord | undefined {
    const { controls, pages } = this.sources.show;
    const known = controls.get(named);
    if (known) return known;
    const [page = '', ...rest] = named.split('/');
    const label = rest.join('/').trim().toLowerCase();
    const on = [...pages.values()].find(({ data }) => data.name.toLowerCase() === page.trim().toLowerCase());
    if (!on || label === '') return undefined;
    return [...controls.values()].find(
      (control) => control.data.page === on.id && nameOfRecord(control).toLowerCase() === label,
    );
  }
}

const notFound = (what: string): Result<never, InletError> =>
  fail({ code: 'not-found', message: `There is no ${what.slice(0, 80)}.` });
