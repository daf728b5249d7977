import { RE2JS } from 're2js';
import { fail, ok, type Result } from '../result';
import type { WatchWhen } from '../show';

type MessageWhen = Extract<WatchWhen, { is: 'message' }>;

/** What the named groups of a pattern have caught; none for a plain text. `undefined` for a message that is another one. */
type Match = (text: string) => Readonly<Record<string, string>> | undefined;

const nothing = {};
/** Patterns compiled before, by their source. */
const known = new Map<string, Result<RE2JS, string>>();
const mostKnown = 500;

/** Compiles a pattern. Only what can be matched in linear time is taken: RE2 syntax, without references back and looking around. */
function compiled(source: string): Result<RE2JS, string> {
  let pattern = known.get(source);
  if (pattern) return pattern;
  try {
    const made = RE2JS.compile(source);
    // The engine sets itself up at the first match, for tens of milliseconds: here, not at the first message.
    made.matcher('').matches();
    pattern = ok(made);
  } catch (error) {
    pattern = fail(
      `This pattern is not supported (RE2 syntax is): ${error instanceof Error ? error.message : String(error)}`,
    );
  }
  if (known.size >= mostKnown) known.clear();
  known.set(source, pattern);
  return pattern;
}

/** Compares messages with what a watch waits for: the same text, or one that fits its pattern from its beginning to its end. */
export function messageMatch({ text: wanted, pattern }: MessageWhen): Match {
  if (!pattern) return (text) => (text === wanted ? nothing : undefined);
  const made = compiled(wanted);
  if (!made.ok) return () => undefined;
  const names = Object.keys(made.value.namedGroups());
  return (text) => {
    const matcher = made.value.matcher(text);
    if (!matcher.matches()) return undefined;
    return Object.fromEntries(names.map((name) => [name, matcher.group(name) ?? '']));
  };
}

/** What is wrong with the pattern of a message; `undefined` when nothing is. */
export const patternProblem = ({ text, pattern }: MessageWhen): string | undefined => {
  const made = pattern ? compiled(text) : undefined;
  return made && !made.ok ? made.error : undefined;
};

/** The names of the groups of a pattern. */
export const groupsOf = ({ text, pattern }: MessageWhen): readonly string[] => {
  const made = pattern ? compiled(text) : undefined;
  return made?.ok ? Object.keys(made.value.namedGroups()) : [];
};
