import { readingTitle, splitKey, valueText, type DriverDocument } from '../driver';
import { formatLabel } from '../face';
import { formatCel } from '../lamp';
import type { Scalar } from '../result';
import {
  meaningWords,
  resolveArgument,
  resolveReading,
  type Argument,
  type Condition,
  type LampRule,
  type ReadingRef,
  type ReadingTest,
} from '../show';
import { opWords } from './rule-edits';

/** Rules in words: for the page sheet, and beside a rule in the editor. */

interface Sources {
  readonly documentOf: (device: string) => DriverDocument | undefined;
  readonly tagOf: (device: string) => string | undefined;
}

type Values = Readonly<Record<string, Scalar>>;

/** `ON AIR, blinking, when SW1 Program input is 3`. */
export function ruleText(rule: LampRule, values: Values, sources: Sources): string {
  const effects = [
    rule.show && (rule.word ?? meaningWords[rule.show]),
    rule.blink && 'blinking',
    rule.label && `reads “${formatLabel(rule.label, sources.tagOf)}”`,
    rule.icon && `icon ${rule.icon}`,
    rule.picture && 'another picture',
    rule.bars && 'barred',
  ].filter(Boolean);
  return `${effects.join(', ')} when ${conditionText(rule.when, values, sources)}`;
}

/** `SW1 Program input is 3 and not (E1 Stream is idle)`. */
export function conditionText(condition: Condition, values: Values, sources: Sources): string {
  const text = (each: Condition) => conditionText(each, values, sources);
  if ('op' in condition) return testText(condition, values, sources);
  if ('not' in condition) return `not (${text(condition.not)})`;
  if ('lasting' in condition) return `${text(condition.lasting)} for at least ${condition.forMs / 1000} s`;
  if ('cel' in condition) return formatCel(condition, sources.tagOf);
  const all = 'all' in condition;
  const parts = all ? condition.all : condition.any;
  return parts.map((part) => (isPlain(part) ? text(part) : `(${text(part)})`)).join(all ? ' and ' : ' or ');
}

const isPlain = (condition: Condition): boolean => 'op' in condition || 'not' in condition;

function testText(test: ReadingTest, values: Values, sources: Sources): string {
  const ref = resolveReading(test.reading, values);
  const shape = sources.documentOf(ref.device)?.readings[splitKey(ref.key).family]?.value;
  const say = (argument: Argument) => {
    const value = resolveArgument(argument, values);
    return value === undefined ? '?' : valueText(shape, value);
  };
  const begins = `${readingName(ref, sources)} ${opWords[test.op]}`;
  switch (test.op) {
    case 'changed':
      return `${begins} ${test.withinMs / 1000} s`;
    case 'oneOf':
      return `${begins} ${test.to.map(say).join(', ')}`;
    case 'within':
      return `${begins} ${say(test.from)} to ${say(test.to)}`;
    default:
      return `${begins} ${say(test.to)}`;
  }
}

/** `SW1 Program input`, `SW1 Input 3`. */
export function readingName({ device, key }: ReadingRef, { documentOf, tagOf }: Sources): string {
  return `${tagOf(device) ?? '?'} ${readingTitle(documentOf(device), key) ?? key}`;
}
