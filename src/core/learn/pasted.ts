import { fail, ok, type Result } from '../result';
import { fromEscaped, fromHex } from '../wire';

/** A message of a conversation, from the device or to it. */
export interface Piece {
  readonly dir: 'in' | 'out';
  readonly bytes: Uint8Array;
}

const most = 5000;

/**
 * Reads messages that were pasted, one a line: hexadecimal digits, or text with the escapes `\r \n \t \0 \\ \xHH`. `>` in front marks what is sent,
 * `<` what comes. Fails with the number of the line at fault.
 *
 * @param ending put behind text that does not end with an escape of its own
 */
export function piecesOf(text: string, ending: '' | '\r\n' | '\n' | '\r'): Result<readonly Piece[], string> {
  const pieces: Piece[] = [];
  const lines = text.split(/\r\n|\r|\n/);
  if (lines.length > most) return fail(`The text has ${lines.length} lines; the limit is ${most}.`);
  for (const [n, line] of lines.entries()) {
    const [, mark = '', body = ''] = /^\s*([<>]?)\s?(.*)$/.exec(line) ?? [];
    if (body.trim() === '') continue;
    const isHex =
      /^(?:[0-9A-Fa-f]{2}[\s,:]*)+$/.test(body.trim()) && (/\s|[,:]/.test(body.trim()) || /[A-Fa-f]/.test(body));
    const read = isHex
      ? fromHex(body)
      : fromEscaped(/\\(?:[rn0]|x[0-9A-Fa-f]{2})$/.test(body) ? body : body + escaped(ending));
    if (!read.ok) return fail(`Line ${n + 1}, character ${read.error.offset + 1}: ${read.error.message}`);
    pieces.push({ dir: mark === '>' ? 'out' : 'in', bytes: read.value });
  }
  return pieces.length === 0 ? fail('There is no message in it.') : ok(pieces);
}

const escaped = (ending: string): string => ending.replace('\r', '\\r').replace('\n', '\\n');
