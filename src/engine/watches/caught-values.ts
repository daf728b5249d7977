import { macroParamsOf, valueOfText } from '../../core/inlet';
import type { Scalar } from '../../core/result';
import { ownDevice, variableCommand } from '../../core/show';
import type { Presses } from '../presses/presses';
import type { RunningShow } from '../show/running-show';

/** What the named groups of a message's pattern have caught. */
export type Caught = Readonly<Record<string, string>>;

interface Sources {
  readonly show: RunningShow;
  readonly presses: Presses;
  readonly newId: () => string;
}

const isSame = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();

/** Fills variables of the show, and parameters of a macro, with what a message has said for them. */
export class CaughtValues {
  constructor(private readonly sources: Sources) {}

  /** Sets the variables that have the names of groups. What one does not take is in the as-run, as refused. */
  setVariables(caught: Caught, who: string): void {
    const { show, presses, newId } = this.sources;
    for (const [group, text] of Object.entries(caught)) {
      const variable = [...show.variables.values()].find(({ data }) => isSame(data.key, group));
      if (!variable) continue;
      const { name, key, value } = variable.data;
      const params = { value: valueOfText(text, value.type) };
      const base = { id: newId(), gesture: 'tap', guard: true, who, device: ownDevice } as const;
      const label = `${name} from a message`;
      presses.command({ ...base, label, command: variableCommand('set', key), params }, () => undefined);
    }
  }

  /** What of it a macro has parameters for, as far as it fits them. */
  paramsOf(macro: string, caught: Caught): Readonly<Record<string, Scalar>> {
    const record = this.sources.show.macros.get(macro);
    const params: Record<string, Scalar> = {};
    for (const [group, text] of Object.entries(caught)) {
      if (!record?.data.params.some(({ name }) => isSame(name, group))) continue;
      const made = macroParamsOf(record, { [group]: text });
      if (made.ok) Object.assign(params, made.value);
    }
    return params;
  }
}
