import { compileExpression, type ComputedReading, type Expression } from './computed';
import type { ReportProblem } from './message';
import type { DriverCommand, DriverDocument, DriverParameter } from './schema';

/** Compiles a document's computed readings. Each may use only earlier ones, so there are no cycles. */
export function computedReadings({ readings }: DriverDocument, report: ReportProblem): ComputedReading[] {
  const before: DriverDocument['readings'] = Object.fromEntries(
    Object.entries(readings).filter(([, { computed }]) => computed === undefined),
  );
  return Object.entries(readings).flatMap(([key, definition]) => {
    if (definition.computed === undefined) return [];
    const variables = definition.index ? { index: wholeNumber } : {};
    const expression = compileExpression(definition.computed, before, variables, definition.value);
    before[key] = definition;
    if (expression.ok) return [{ key, definition, expression: expression.value }];
    report(`readings.${key}.computed`, expression.error);
    return [];
  });
}

const wholeNumber = { type: 'whole' } as const;

/** The expressions of a command's parameters. Each may name the parameters before it. */
export function computedParams(
  { readings }: DriverDocument,
  { params }: DriverCommand,
  path: string,
  report: ReportProblem,
): ReadonlyMap<string, Expression> {
  const made = new Map<string, Expression>();
  const before: Record<string, DriverParameter['value']> = {};
  for (const [name, { value, computed }] of Object.entries(params)) {
    const expression = computed === undefined ? undefined : compileExpression(computed, readings, before, value);
    if (expression?.ok) made.set(name, expression.value);
    else if (expression) report(`${path}.${name}.computed`, expression.error);
    before[name] = value;
  }
  return made;
}
