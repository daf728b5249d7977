import type { Problem } from '../result';

/** An issue as Zod reports it, as far as it is told to people. */
interface SchemaIssue {
  readonly code?: string;
  readonly path: readonly PropertyKey[];
  readonly message: string;
  readonly values?: readonly unknown[];
  readonly keys?: readonly string[];
  readonly input?: unknown;
  readonly expected?: string;
  readonly errors?: readonly (readonly SchemaIssue[])[];
}

/** An issue of a union says only that nothing fitted; what is told is what was wrong with the alternative that came furthest. */
export function problemsOfIssue(issue: SchemaIssue, base: readonly PropertyKey[] = []): Problem[] {
  const path = [...base, ...issue.path];
  const depth = (issues: readonly SchemaIssue[]) =>
    Math.max(0, ...issues.map((each) => each.path.length + (each.code === 'unrecognized_keys' ? 0.5 : 0)));
  const alternatives = [...(issue.errors ?? [])].filter((each) => each.length > 0);
  const [nearest] = alternatives.sort((a, b) => depth(b) - depth(a));
  if (issue.code === 'invalid_union' && nearest && depth(nearest) > 0) {
    return nearest.flatMap((each) => problemsOfIssue(each, path));
  }
  return [{ path: path.map(String).join('.'), message: sentenceOf(issue) }];
}

/** What is expected, in a sentence for people. */
function sentenceOf({ code, message, values, keys, input, expected }: SchemaIssue): string {
  if (code === 'unrecognized_keys' && keys) {
    return `There is no field ${keys.map((key) => `“${key}”`).join(', ')} here.`;
  }
  if (code === 'invalid_value' && values) return `Expected one of ${values.map(String).join(', ')}.`;
  if (code === 'invalid_type' && expected) {
    const kinds: Readonly<Record<string, string>> = {
      string: 'a text',
      number: 'a number',
      object: 'an object',
      record: 'an object',
      array: 'a list',
      boolean: 'true or false',
    };
    const wanted = kinds[expected] ?? expected;
    return input === undefined && message.includes('undefined')
      ? `Is missing: expected ${wanted}.`
      : `Expected ${wanted}.`;
  }
  return code === 'invalid_format' || code === 'custom' ? `Expected ${message}.` : `${message}.`;
}
