import { fail, ok, type Problem, type Result } from '../result';
import { compileDriver, type CompiledDriver } from './compile';
import { driverDocumentSchema } from './schema';

/**
 * Checks a document that a person writes or installs. Beyond `compileDriver`, each command must have its sentence: documents that were
 * installed before that was required go on working, and show title and values instead.
 */
export function checkNewDriver(input: unknown): Result<CompiledDriver, readonly Problem[]> {
  const compiled = compileDriver(input);
  if (!compiled.ok) return compiled;
  // All commands, also those that only devices with other options have.
  const { commands } = driverDocumentSchema.parse(input);
  const problems = Object.entries(commands).flatMap(([id, { says, title, params }]): Problem[] => {
    if (says !== undefined) return [];
    const [param] = Object.keys(params);
    const how = param === undefined ? `“${title}”` : `its parameters in braces, for example “${title} {${param}}”`;
    return [{ path: `commands.${id}.says`, message: `Say what the command does in a short sentence: ${how}.` }];
  });
  return problems.length > 0 ? fail(problems) : ok(compiled.value);
}
