import type { Scalar } from '../result';
import type { MacroData } from '../show';

/** The values of a macro's parameters: as given, else their usual ones. What is given under another name is left out. */
export const valuesOf = (
  { params }: Pick<MacroData, 'params'>,
  given: Readonly<Record<string, Scalar>>,
): Record<string, Scalar> => Object.fromEntries(params.map(({ name, value }) => [name, given[name] ?? value]));

/** What is wrong with the parameters that a macro is begun with; `undefined` when nothing is. */
export function givenProblem(
  { name: macro, params }: Pick<MacroData, 'name' | 'params'>,
  given: Readonly<Record<string, Scalar>>,
): string | undefined {
  for (const [name, value] of Object.entries(given)) {
    const param = params.find((each) => each.name === name);
    if (!param) return `The macro “${macro}” has no parameter “${name}”.`;
    if (typeof param.value !== typeof value)
      return `“${param.title}” of the macro “${macro}” takes ${kinds[typeof param.value as keyof typeof kinds]}, not “${String(value)}”.`;
  }
  return undefined;
}

const kinds = { number: 'a number', string: 'a text', boolean: 'on or off' } as const;
