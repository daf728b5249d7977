import type { Scalar } from '../result';
import type { InletError } from './request';

/** What came of a request. */
export type InletAnswer =
  | { readonly is: 'ok'; readonly said: string; readonly outcome?: string; readonly ms?: number }
  | { readonly is: 'value'; readonly value: Scalar; readonly isFresh: boolean }
  | { readonly is: 'lamp'; readonly show: string; readonly word: string }
  | { readonly is: 'list'; readonly items: readonly string[] }
  /** `code` is that of an error, or the outcome of a press that did not go well. */
  | { readonly is: 'error'; readonly code: string; readonly message: string };

export const errorAnswer = ({ code, message }: InletError): InletAnswer => ({ is: 'error', code, message });

/** The answer as a line of text: `ok confirmed 41 ms`, `value Start tower`, `error not-found There is no …`. */
export function answerLine(answer: InletAnswer): string {
  switch (answer.is) {
    case 'ok':
      return `ok ${answer.said}`;
    case 'value':
      return `${answer.isFresh ? 'value' : 'stale'} ${String(answer.value)}`;
    case 'lamp':
      return `lamp ${answer.show} ${answer.word}`.trim();
    case 'list':
      return `list ${JSON.stringify(answer.items)}`;
    case 'error':
      return `error ${answer.code} ${answer.message}`.trim();
  }
}

/** The answer as an HTTP status (RFC 9110, section 15). */
export const answerStatus = (answer: InletAnswer): number =>
  answer.is === 'error' ? (statusOf[answer.code] ?? 500) : 200;

const statusOf: Readonly<Record<string, number>> = {
  incomplete: 400,
  'no-token': 401,
  'not-allowed': 403,
  'foreign-page': 403,
  'foreign-host': 403,
  'not-found': 404,
  'not-known': 404,
  'unknown-request': 404,
  'wrong-method': 405,
  refused: 409,
  skipped: 409,
  'too-long': 413,
  'too-many': 429,
  lost: 502,
  late: 504,
};

/** Every status of an error with the codes that have it, in order. */
export const answerStatuses: ReadonlyMap<number, readonly string[]> = new Map(
  [...new Set(Object.values(statusOf))]
    .sort((a, b) => a - b)
    .map((status) => [status, Object.keys(statusOf).filter((code) => statusOf[code] === status)]),
);
