import { fail, ok, type Result } from '../../result';

/** JSON, RFC 8259, one text a frame. */
export type Json = string | number | boolean | null | readonly Json[] | { readonly [key: string]: Json };

/** Reads a JSON text. Deep nesting is refused by the engine's own parser, never by a crash. */
export function parseJson(text: string): Result<Json, string> {
  try {
    return ok(JSON.parse(text) as Json);
  } catch (error) {
    return fail(error instanceof Error ? error.message : 'not JSON');
  }
}

/**
 * The value at a JSON Pointer (RFC 6901): `''` is the whole, `/a/0/b` goes down, `~1` stands for `/` and `~0` for `~`.
 * `undefined` when there is nothing.
 */
export function atPointer(value: Json, pointer: string): Json | undefined {
  if (pointer === '') return value;
  let at: Json | undefined = value;
  for (const part of pointer.slice(1).split('/')) {
    const key = part.replaceAll('~1', '/').replaceAll('~0', '~');
    if (Array.isArray(at)) at = /^(0|[1-9]\d{0,6})$/.test(key) ? (at as readonly Json[])[Number(key)] : undefined;
    else if (typeof at === 'object' && at !== null)
      at = Object.hasOwn(at, key) ? (at as Record<string, Json>)[key] : undefined;
    else return undefined;
  }
  return at;
}

/** A value as text, as templates and patterns see it; objects and lists as JSON. `undefined` for null and nothing. */
export function jsonText(value: Json | undefined): string | undefined {
  if (value === undefined || value === null) return undefined;
  if (typeof value !== 'object') return String(value);
  try {
    return JSON.stringify(value);
  } catch {
    // Nested deeper than can be written again.
    return undefined;
  }
}
