import { z } from 'zod';
import { fail, ok, type Problem, type Result } from '../result';
import { parseJson } from '../wire';

interface Kind {
  readonly format: string;
  /** The newest version that is read. */
  readonly version: number;
  /** What is in it. */
  readonly what: string;
}

/** Reads a file that this program has saved. Everything that is wrong with it is said, each with its place. */
export function readOwnFile<T>(
  text: string,
  schema: z.ZodType<T>,
  { format, version, what }: Kind,
): Result<T, readonly Problem[]> {
  const json = parseJson(text);
  if (!json.ok) return fail([{ path: '', message: `This is not JSON. ${json.error}` }]);
  const head = z.object({ format: z.string(), version: z.number().optional() }).safeParse(json.value);
  if (!head.success || head.data.format !== format) {
    const found = head.success ? `a file of the format “${head.data.format}”` : 'something else';
    return fail([{ path: 'format', message: `This is ${found}, not ${what} (“${format}”).` }]);
  }
  if ((head.data.version ?? 0) > version)
    return fail([
      { path: 'version', message: 'This file was made by a newer version of the program. Update this one.' },
    ]);
  const file = schema.safeParse(json.value);
  if (file.success) return ok(file.data);
  return fail(file.error.issues.slice(0, 20).map((issue) => ({ path: issue.path.join('.'), message: issue.message })));
}
