import { askedParams, type DriverDocument } from '../driver';
import type { Scalar } from '../result';
import { resolveArgument, valueNameOf, type ControlRecord, type MacroRecord } from '../show';
import { gesturesOf, sendsOf } from './control-edits';
import type { Askable } from './questions';

/** Something that a press could ask for. */
interface AskOffer {
  readonly about: Askable;
  readonly title: string;
  /** Where it belongs: the tag and the command, or the macro. */
  readonly of: string;
  /** What it is now. */
  readonly now: Scalar | undefined;
}

interface Sources {
  readonly documentOf: (device: string) => DriverDocument | undefined;
  readonly tagOf: (device: string) => string | undefined;
  readonly macroOf: (id: string) => MacroRecord | undefined;
}

/** Every parameter of what a control sends or begins that is not asked for yet. */
export function askOffers(data: ControlRecord['data'], { documentOf, tagOf, macroOf }: Sources): AskOffer[] {
  const asked = new Set(data.responses.asks?.items.map(({ value }) => value));
  const offers: AskOffer[] = [];
  for (const gesture of gesturesOf(data)) {
    for (const [index, { device, command: id, params }] of sendsOf(data, gesture).entries()) {
      const command = documentOf(device)?.commands[id];
      for (const [param, { title, default: usual }] of askedParams(command)) {
        const argument = params[param];
        if (asked.has(valueNameOf(argument) ?? '')) continue;
        const now = argument === undefined ? usual : resolveArgument(argument, data.values);
        const of = `${tagOf(device) ?? '?'} ${command?.title ?? id}`;
        offers.push({ about: { of: 'send', gesture, index, param }, title, of, now });
      }
    }
  }
  const { runs } = data.responses;
  const macro = runs && macroOf(runs.macro);
  for (const { name, title, value } of macro?.data.params ?? []) {
    const argument = runs?.params[name];
    if (asked.has(valueNameOf(argument) ?? '')) continue;
    const now = argument === undefined ? value : resolveArgument(argument, data.values);
    offers.push({ about: { of: 'macro', param: name }, title, of: `macro ${macro?.data.name ?? ''}`, now });
  }
  return offers;
}
