import { fail, ok, type Problem, type Result } from '../result';
import { compileDriver, type CompiledDriver } from './compile';
import { findMistakes } from './mistakes';
import { sampleProblems } from './samples';
import { driverDocumentSchema } from './schema';

/**
 * Checks a document that a person writes or installs. Beyond `compileDriver`, each command must have its sentence, its samples must
 * mean what they say, and nothing may be in it that is surely not meant: documents that were installed before go on working.
 */
export function checkNewDriver(input: unknown): Result<CompiledDriver, readonly Problem[]> {
  const compiled = compileDriver(input);
  if (!compiled.ok) return compiled;
  // All commands, also those that only devices with other options have.
  const document = driverDocumentSchema.parse(input);
  const sentences = Object.entries(document.commands).flatMap(([id, { says, title, params }]): Problem[] => {
    if (says !== undefined) return [];
    const [param] = Object.keys(params);
    const how = param === undefined ? `“${title}”` : `its parameters in braces, for example “${title} {${param}}”`;
    return [{ path: `commands.${id}.says`, message: `Say what the command does in a short sentence: ${how}.` }];
  });
  const problems = [...sentences, ...findMistakes(document), ...sampleProblems(document)];
  return problems.length > 0 ? fail(problems) : ok(compiled.value);
}
