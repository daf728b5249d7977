import {
  meaningWords,
  readingsOfCondition,
  resolveReading,
  type Condition,
  type ControlRecord,
  type LampRule,
  type Meaning,
  type ReadingRef,
} from '../show';
import { truthOf, type LampMemory, type LampSources, type Pass, type Truth, type Values } from './truth';

/** What a lamp says: a meaning, nothing, or that it does not know. */
export type Lamp =
  | { readonly show: 'off' }
  | { readonly show: Meaning; readonly word: string; readonly blink?: true }
  /** The deciding reading may be old: it was last heard at this time. */
  | { readonly show: 'stale'; readonly since: number }
  | { readonly show: 'unknown' };

/** What a control's rules make of it now, besides what is stored. */
interface Look extends Pick<LampRule, 'label' | 'icon' | 'picture'> {
  readonly lamp: Lamp;
  /** It cannot be pressed now. */
  readonly barred?: true;
  /** The next time at which this may be another although nothing is reported; left out for never. */
  readonly again?: number;
}

/**
 * What a control shows by its rules now. Of the rules that light, the first that holds decides the lamp; one that cannot be decided,
 * before one that holds, makes the lamp doubtful, because it might have been the one. Likewise for label, icon, picture and the bar,
 * each by the rules that say something about it; there a rule in doubt counts as one that does not hold.
 */
export function lookNow(
  rules: readonly LampRule[],
  values: Values,
  sources: LampSources,
  memory: LampMemory = new Map(),
): Look {
  const pass: Pass = { values, sources, memory, again: Infinity };
  let lamp: Lamp | undefined;
  const look: { label?: LampRule['label']; icon?: string; picture?: string; barred?: true } = {};
  for (const [n, rule] of rules.entries()) {
    const truth = truthOf(rule.when, pass, String(n));
    if (rule.show && !lamp) lamp = lampOf(truth, rule, rule.show);
    if (truth.is !== true) continue;
    if (rule.label) look.label ??= rule.label;
    if (rule.icon) look.icon ??= rule.icon;
    if (rule.picture) look.picture ??= rule.picture;
    if (rule.bars) look.barred = true;
  }
  return { lamp: lamp ?? { show: 'off' }, ...look, ...(pass.again === Infinity ? {} : { again: pass.again }) };
}

function lampOf(truth: Truth, { word, blink }: LampRule, show: Meaning): Lamp | undefined {
  switch (truth.is) {
    case true:
      return { show, word: word ?? meaningWords[show], ...(blink ? { blink } : {}) };
    case false:
      return undefined;
    case 'stale':
      return { show: 'stale', since: truth.since };
    case 'unknown':
      return { show: 'unknown' };
  }
}

/** Whether one rule holds now, and which reading decides. */
export function ruleNow(
  { when }: Pick<LampRule, 'when'>,
  values: Values,
  sources: LampSources,
  memory: LampMemory,
): Truth {
  return truthOf(when, { values, sources, memory, again: Infinity }, '0');
}

/** Whether a condition holds, and when that may change although nothing is reported; `Infinity` for never. */
export function conditionNow(
  condition: Condition,
  sources: LampSources,
  memory: LampMemory,
): { readonly truth: Truth; readonly again: number } {
  const pass: Pass = { values: {}, sources, memory, again: Infinity };
  const truth = truthOf(condition, pass, '0');
  return { truth, again: pass.again };
}

/** The readings that a control's rules depend on, resolved with its values. */
export const readingsOfLamps = ({ lamps, values }: Pick<ControlRecord['data'], 'lamps' | 'values'>): ReadingRef[] =>
  lamps.flatMap(({ when }) => readingsOfCondition(when).map((ref) => resolveReading(ref, values)));
