import { fail, ok, type Result } from '../../result';
import { endingBytes, type LineEnding, type TextEncodingName } from './framer';

interface LineEncodeError {
  readonly code: 'ending-inside' | 'not-encodable' | 'overlong';
  /** Position of the character at fault, counted in UTF-16 units from 0. */
  readonly offset: number;
  readonly message: string;
}

const utf8 = new TextEncoder();

/**
 * The bytes of one line with its ending, which is that of received lines unless `sends` names another.
 *
 * A line that holds an ending of its own is refused: a device would read it as two, and a text typed by a person must
 * never become a command.
 */
export function encodeLine(
  text: string,
  options: { ending: LineEnding; sends?: LineEnding | 'none'; encoding: TextEncodingName; maxFrameBytes: number },
): Result<Uint8Array, LineEncodeError> {
  for (let i = 0; i < text.length; i += 1) {
    const unit = text.charCodeAt(i);
    if (unit === 0x0a || unit === 0x0d || unit === 0) {
      return fail({ code: 'ending-inside', offset: i, message: 'A line cannot contain a line break or a NUL.' });
    }
    if (options.encoding === 'latin-1' && unit > 0xff) {
      return fail({ code: 'not-encodable', offset: i, message: `The device's character set has no “${text[i]}”.` });
    }
  }
  const body = options.encoding === 'utf-8' ? utf8.encode(text) : Uint8Array.from(text, (c) => c.charCodeAt(0));
  if (body.length > options.maxFrameBytes) {
    return fail({
      code: 'overlong',
      offset: options.maxFrameBytes,
      message: `The line is ${body.length} bytes long; the device takes ${options.maxFrameBytes}.`,
    });
  }
  const { sends = options.ending } = options;
  const ending = sends === 'none' ? new Uint8Array() : endingBytes[sends];
  const frame = new Uint8Array(body.length + ending.length);
  frame.set(body);
  frame.set(ending, body.length);
  return ok(frame);
}
