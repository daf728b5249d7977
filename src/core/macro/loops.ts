import type { MacroRecord, MacroSend } from '../show';
import { sendsOfStep } from './plan';

/** The macros that a macro begins, each once. */
export const calledBy = ({ data }: MacroRecord): string[] => [
  ...new Set(
    data.segments.flatMap(({ steps }) => steps.flatMap(({ does }) => (does.is === 'macro' ? [does.macro] : []))),
  ),
];

/** Every command that a macro can send, with those of the macros that it begins, whatever round they call each other in. */
export function sendsOfMacro(id: string, macroOf: (id: string) => MacroRecord | undefined): MacroSend[] {
  const seen = new Set<string>();
  const sendsOf = (each: string): MacroSend[] => {
    const macro = seen.has(each) ? undefined : macroOf(each);
    seen.add(each);
    if (!macro) return [];
    const own = macro.data.segments.flatMap(({ steps }) => steps.flatMap(sendsOfStep));
    return [...own, ...calledBy(macro).flatMap(sendsOf)];
  };
  return sendsOf(id);
}

/**
 * A round of macros that call each other, from one back to itself, if there is one.
 * @returns their names, the first one again at the end
 */
export function loopOf(macro: MacroRecord, all: ReadonlyMap<string, MacroRecord>): string[] | undefined {
  const path: MacroRecord[] = [];
  const seen = new Set<string>();
  const look = (at: MacroRecord): boolean => {
    path.push(at);
    for (const id of calledBy(at)) {
      if (id === macro.id) return true;
      const next = all.get(id);
      if (!next || seen.has(id)) continue;
      seen.add(id);
      if (look(next)) return true;
    }
    path.pop();
    return false;
  };
  return look(macro) ? [...path.map(({ data }) => data.name), macro.data.name] : undefined;
}
