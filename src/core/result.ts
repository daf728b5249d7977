/** The answer of an operation that may fail in an expected way: expected failures are returned, never thrown. */
export type Result<T, E> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly error: E };

export const ok = <T>(value: T): { readonly ok: true; readonly value: T } => ({ ok: true, value });
export const fail = <E>(error: E): { readonly ok: false; readonly error: E } => ({ ok: false, error });

/** One thing that is wrong with a document or an input: where, and a sentence that says what is expected. */
export interface Problem {
  /** Dotted path from the root of the document, `''` for the whole. */
  readonly path: string;
  readonly message: string;
}

/** A value that a device reports or a parameter takes. */
export type Scalar = string | number | boolean;
