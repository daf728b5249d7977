import { splitKey, type DriverDocument, type ValueShape } from '../driver';
import { checkCel } from '../lamp';
import { readingName } from '../page';
import {
  mapConditionArguments,
  resolveArgument,
  resolveReading,
  type Condition,
  type ControlRecord,
  type ReadingRef,
} from '../show';

interface Sources {
  readonly documentOf: (device: string) => DriverDocument | undefined;
  readonly tagOf: (device: string) => string | undefined;
}

/** What cannot be judged in a rule although its readings are there: sentences, without one for what is gone. */
export function problemsOfRule(
  when: Condition,
  { values }: Pick<ControlRecord['data'], 'values'>,
  sources: Sources,
): string[] {
  const found = new Set<string>();
  const shapeOf = (ref: ReadingRef) => {
    const { device, key } = resolveReading(ref, values);
    return sources.documentOf(device)?.readings[splitKey(key).family]?.value;
  };
  const name = (ref: ReadingRef) => readingName(resolveReading(ref, values), sources);
  mapConditionArguments(when, (argument, ref) => {
    const shape = shapeOf(ref);
    const value = resolveArgument(argument, values);
    if (value === undefined) found.add(`${name(ref)} is compared with a value that the control does not have.`);
    else if (shape && typeof value !== typeOf(shape))
      found.add(`${name(ref)} is ${kindWords[typeOf(shape)]}: it cannot be compared with “${String(value)}”.`);
    return argument;
  });
  for (const leaf of leavesOf(when)) {
    if ('cel' in leaf) {
      const known = leaf.readings.every((ref) => shapeOf(ref));
      const wrong = known ? checkCel(leaf, values, sources.documentOf) : undefined;
      if (wrong) found.add(wrong);
    } else if ('op' in leaf && ['above', 'below', 'within'].includes(leaf.op)) {
      const shape = shapeOf(leaf.reading);
      if (shape && typeOf(shape) !== 'number')
        found.add(`${name(leaf.reading)} is ${kindWords[typeOf(shape)]}: it cannot be above or below anything.`);
    }
  }
  return [...found];
}

const kindWords = { number: 'a number', string: 'a text', boolean: 'on or off' } as const;

function typeOf(shape: ValueShape): keyof typeof kindWords {
  switch (shape.type) {
    case 'whole':
    case 'decimal':
    case 'time':
      return 'number';
    case 'onOff':
      return 'boolean';
    case 'choice':
      return typeof shape.choices[0]?.value === 'number' ? 'number' : 'string';
    default:
      return 'string';
  }
}

function leavesOf(condition: Condition): Condition[] {
  if ('op' in condition || 'cel' in condition) return [condition];
  if ('not' in condition) return leavesOf(condition.not);
  if ('lasting' in condition) return leavesOf(condition.lasting);
  return ('all' in condition ? condition.all : condition.any).flatMap(leavesOf);
}
