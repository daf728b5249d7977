import {
  isNamed,
  macroParamsOf,
  valueOfText,
  type InletAnswer,
  type InletError,
  type InletRequest,
} from '../../core/inlet';
import { fail, ok, type Result, type Scalar } from '../../core/result';
import { ownDevice, variableCommand } from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import { firing } from '../presses/firing';
import type { PressListener } from '../presses/press-book';
import type { Presses } from '../presses/presses';
import type { RunningShow } from '../show/running-show';
import { type Followers, type Subscriber } from './followers';
import { notFound, Subjects } from './subjects';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly presses: Presses;
}

/** Who makes a request: name, rights, and how it is told of changes later. */
interface Asker {
  readonly name: string;
  readonly readsOnly: boolean;
  /** What a person would have to confirm is done without. */
  readonly confirms: boolean;
  /** The id of the press that a request becomes. */
  readonly press: string;
  /** Of a caller with a token of its own. */
  readonly caller?: string;
  /** Absent for those who cannot be told of changes. */
  readonly subscriber?: Subscriber;
}

const cannotFollow: InletError = { code: 'not-allowed', message: 'Devices cannot follow readings. Use read.' };

/** Does what somebody asks for over an inlet, in the same way as a press. */
export class InletHand {
  readonly subjects: Subjects;

  constructor(
    private readonly sources: Sources,
    readonly followers: Followers,
  ) {
    this.subjects = new Subjects(sources);
  }

  /** Returns what it was, or why it is nothing; `answer` hears the rest, perhaps before this returns. */
  carryOut(asker: Asker, request: InletRequest, answer: (answer: InletAnswer) => void): Result<string, InletError> {
    switch (request.do) {
      case 'read': {
        const found = this.subjects.find(request.subject);
        if (!found.ok) return found;
        const now = found.value.now();
        if (!now) return notFound(`value of ${found.value.name} now`);
        answer(now);
        return ok('answered');
      }
      case 'list': {
        const items = this.subjects.list(request.what, request.of);
        if (!items.ok) return items;
        answer({ is: 'list', items: items.value });
        return ok('answered');
      }
      case 'follow': {
        const found = this.subjects.find(request.subject);
        if (!found.ok) return found;
        if (!asker.subscriber) return fail(cannotFollow);
        const now = this.followers.follow(asker.subscriber, found.value);
        if (!now.ok) return now;
        answer(now.value);
        return ok('follows');
      }
      case 'unfollow': {
        const found = request.subject && this.subjects.find(request.subject);
        if (found && !found.ok) return found;
        if (!asker.subscriber) return fail(cannotFollow);
        this.followers.unfollow(asker.subscriber.id, found?.value.id);
        answer({ is: 'ok', said: 'no longer followed' });
        return ok('follows no more');
      }
      default:
        if (asker.readsOnly)
          return fail({ code: 'not-allowed', message: 'Only reading and firing watches are allowed here.' });
        return this.act(request, asker, answer);
    }
  }

  private act(
    request: Exclude<InletRequest, { do: 'read' | 'list' | 'follow' | 'unfollow' }>,
    { name, caller, press, confirms: guard }: Asker,
    answer: (answer: InletAnswer) => void,
  ): Result<string, InletError> {
    const { presses, show } = this.sources;
    const who = `${name}${caller === undefined ? '' : ` (${caller})`}`.slice(0, 60);
    const ended: PressListener = (report) => {
      if (!('sends' in report)) return;
      const { outcome, ms, reason = '' } = report;
      const well = outcome === 'confirmed' || outcome === 'sent';
      answer(
        well
          ? { is: 'ok', said: `${outcome} ${Math.round(ms)} ms`, outcome, ms }
          : { is: 'error', code: outcome, message: reason },
      );
    };
    const tell = (command: string, params: Record<string, Scalar>) => {
      const label = `SHOW ${command}`;
      const base = { id: press, gesture: 'tap', guard, who, device: ownDevice, label } as const;
      presses.command({ ...base, command, params }, ended);
      return ok(command);
    };
    switch (request.do) {
      case 'press': {
        const control = this.subjects.control(request.control);
        if (!control) return notFound(`control ${request.control}`);
        const at = { page: control.data.page, control: control.id };
        presses.press({ id: press, ...at, gesture: 'tap', guard, alone: true, who }, ended);
        return ok('pressed');
      }
      case 'run': {
        const macro =
          show.macros.get(request.macro) ??
          [...show.macros.values()].find(({ data }) => isNamed(data.name, request.macro));
        if (!macro) return notFound(`macro ${request.macro}`);
        const params = macroParamsOf(macro, request.params);
        if (!params.ok) return params;
        const control = firing({ tap: [], runs: { macro: macro.id, params: params.value } });
        const label = macro.data.name;
        presses.fire({ id: press, gesture: 'tap', guard, who, control, page: 'Inlet', label }, ended);
        return ok('started');
      }
      case 'page':
        return tell('showPage', { page: request.page });
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
}
