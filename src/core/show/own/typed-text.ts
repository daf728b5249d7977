import { fail, ok, type Problem, type Result } from '../../result';
import { fromEscaped } from '../../wire';

/**
 * Texts with values in braces, as people type them, and as templates. Typed, only the name of a value in braces is a hole, and every other
 * brace is itself; in a template such a brace has a backslash before it.
 */

const hole = /\{([A-Za-z][A-Za-z0-9.]*)(:[a-z][a-z0-9]*)?\}/y;
const check = /\{check [a-z0-9]+(?: from \d{1,3})?(?: as [a-z0-9]+)?\}/y;

/** Cuts a typed text at the holes whose names are known. */
export function pieces(typed: string, known: readonly string[]): { readonly text: string; readonly isHole: boolean }[] {
  const found: { text: string; isHole: boolean }[] = [];
  let text = '';
  for (let at = 0; at < typed.length;) {
    const match = typed.charAt(at) === '{' ? holeAt(typed, at, known) : undefined;
    if (match === undefined) {
      // An escape is kept whole, so that \{ is not read as a hole.
      const length = typed.charAt(at) === '\\' ? 2 : 1;
      text += typed.slice(at, at + length);
      at += length;
      continue;
    }
    if (text) found.push({ text, isHole: false });
    text = '';
    found.push({ text: match, isHole: true });
    at += match.length;
  }
  if (text) found.push({ text, isHole: false });
  return found;
}

/** The hole that begins there: a value whose name is known, or a checksum over everything before it. */
function holeAt(typed: string, at: number, known: readonly string[]): string | undefined {
  check.lastIndex = at;
  hole.lastIndex = at;
  const value = hole.exec(typed);
  return check.exec(typed)?.[0] ?? (value && known.includes(value[1] ?? '') ? value[0] : undefined);
}

/** Names in braces that are no values: they are sent as they are, which is rarely meant. */
export function unknownHoles(typed: string, known: readonly string[]): string[] {
  const names = [...typed.matchAll(/(?<!\\)\{([A-Za-z][A-Za-z0-9]*)(?::[a-z0-9]+)?\}/g)].map(([, name = '']) => name);
  return [...new Set(names.filter((name) => !known.includes(name)))];
}

/** A typed text with escapes as a template of bytes. Fails at the character of a mistake. */
export function bytesTemplate(typed: string, known: readonly string[]): Result<string, Problem> {
  let at = 0;
  let template = '';
  for (const { text, isHole } of pieces(typed, known)) {
    const read = isHole ? undefined : fromEscaped(text.replace(/\\[{}]/g, '?'));
    if (read && !read.ok) {
      return fail({ path: 'payload', message: `Character ${at + read.error.offset + 1}: ${read.error.message}` });
    }
    template += isHole ? text : text.replace(/\\?[{}]/g, (brace) => `\\${brace.slice(-1)}`);
    at += text.length;
  }
  return ok(template);
}

/** A typed text without escapes as a template: a backslash is itself. */
export const plainTemplate = (typed: string, known: readonly string[]): string =>
  pieces(typed.replaceAll('\\', '\\\\'), known)
    .map(({ text, isHole }) => (isHole ? text : text.replace(/[{}]/g, '\\$&')))
    .join('');

/** What was typed for a template of bytes. */
export const typedOfBytes = (template: string): string => template.replace(/\\([{}])/g, '$1');

/** What was typed for a plain template. */
export const typedOfPlain = (template: string): string => template.replace(/\\([{}\\])/g, '$1');
