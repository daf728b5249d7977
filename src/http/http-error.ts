/** A refusal that the other end is told: with a code for programs and a sentence for people. */
export class HttpError extends Error {
  constructor(
    readonly status: 400 | 403 | 404 | 405 | 409 | 413 | 415 | 500 | 503,
    readonly code: string,
    message: string,
    /** The field at fault, where there is one. */
    readonly field?: string,
  ) {
    super(message);
  }
}
