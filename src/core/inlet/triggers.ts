import {
  nameOfRecord,
  type ControlRecord,
  type Edit,
  type InletRecord,
  type MacroRecord,
  type ShowRecord,
  type Trigger,
} from '../show';
import { changeInletEdit, inletsOf } from './edits';

/** What can be learned for: it is pressed or started by texts that mean nothing by themselves. */
export type Learner = ControlRecord | MacroRecord;

/** How many texts one control or macro may have. */
export const mostTriggers = 8;

/** A text that an inlet has learned. */
export interface LearnedTrigger {
  readonly inlet: InletRecord;
  readonly text: string;
}

const targetOf = (trigger: Trigger): string => ('press' in trigger ? trigger.press : trigger.run);

/** What was learned for a control or a macro, over all inlets. */
export const triggersOf = (records: readonly ShowRecord[], learner: string): LearnedTrigger[] =>
  inletsOf(records).flatMap((inlet) =>
    (inlet.data.triggers ?? []).filter((trigger) => targetOf(trigger) === learner).map(({ text }) => ({ inlet, text })),
  );

/** What a text does on an inlet already: a control, a macro or a watch, by name. `undefined` when nothing has it, or only the learner itself. */
export function takenBy(
  records: readonly ShowRecord[],
  { inlet, text }: LearnedTrigger,
  learner: string,
): string | undefined {
  const trigger = (inlet.data.triggers ?? []).find((each) => each.text === text);
  const target = trigger && targetOf(trigger);
  if (target !== undefined && target !== learner) {
    const record = records.find(({ id }) => id === target);
    return record ? nameOfRecord(record) : 'something that no longer exists';
  }
  const watch = records.find(
    (each) =>
      each.kind === 'watch' &&
      each.data.when.is === 'message' &&
      each.data.when.text === text &&
      (each.data.when.inlet ?? inlet.id) === inlet.id,
  );
  return watch && `the watch ${nameOfRecord(watch)}`;
}

/** The inlet learns a text for a control or a macro; what had it before has it no more. */
export function learnEdit(learner: Learner, { inlet, text }: LearnedTrigger): Edit {
  const others = (inlet.data.triggers ?? []).filter((each) => each.text !== text);
  const trigger: Trigger = learner.kind === 'macro' ? { text, run: learner.id } : { text, press: learner.id };
  const what = `Learn “${text.slice(0, 40)}”`;
  return {
    ...changeInletEdit(inlet, { ...inlet.data, triggers: [...others, trigger] }, what),
    title: `${what} for ${nameOfRecord(learner)}`,
  };
}

export function unlearnEdit({ inlet, text }: LearnedTrigger): Edit {
  const { triggers = [], ...rest } = inlet.data;
  const left = triggers.filter((each) => each.text !== text);
  const edit = changeInletEdit(inlet, left.length === 0 ? rest : { ...rest, triggers: left }, '');
  return { ...edit, title: `Forget “${text.slice(0, 40)}”` };
}
