import type { CheckItem, CheckResult } from '../../core/line-check';
import type { ReplayLine, ReplayOrder } from '../../core/live';

/** A proof that was rehearsed. */
export type Rehearsed = Pick<
  CheckResult,
  'item' | 'by' | 'fingerprint' | 'state' | 'text' | 'ms' | 'bytes' | 'sideEffects'
>;

/** Who plans the line check and rehearses it: another process, for both take long. */
export interface Checker {
  /** The items of the running show, in pieces, and what they were made from. */
  readonly plan: (
    onItems: (items: readonly CheckItem[]) => void,
  ) => Promise<{ readonly revision: number | null; readonly seq: number }>;
  /** Rehearses items at private stand-ins; resolves when it has told what came of all of them. */
  readonly rehearse: (
    items: readonly string[],
    onResult: (result: Rehearsed) => void,
    signal: AbortSignal,
  ) => Promise<void>;
  /** Plays a part of the as-run again; its lines are JSON, handed on as they come. */
  readonly replay: (order: ReplayOrder, onLine: (line: ReplayLine) => void, signal: AbortSignal) => Promise<void>;
}

type Line =
  | { readonly t: 'items'; readonly items: readonly CheckItem[] }
  | { readonly t: 'planned'; readonly revision: number | null; readonly seq: number }
  | { readonly t: 'result'; readonly result: Rehearsed }
  | Failed;
interface Failed {
  readonly t: 'failed';
  readonly message: string;
}

const isFailed = (line: { readonly t: string }): line is Failed => line.t === 'failed';

/** The process that does it, on a loopback port, with the token of this start. */
export function checkerAt(port: number, token: string): Checker {
  const follow = async <L extends { readonly t: string }>(
    path: string,
    body: unknown,
    onLine: (line: L) => void,
    signal?: AbortSignal,
  ) => {
    const answer = await fetch(`http://127.0.0.1:${port}${path}`, {
      method: 'POST',
      headers: { authorization: `Bearer ${token}`, 'content-type': 'application/json' },
      body: JSON.stringify(body),
      ...(signal ? { signal } : {}),
    });
    if (!answer.ok || !answer.body) throw new Error(`The line check’s process answered with ${answer.status}.`);
    let rest = '';
    const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader();
    for (let piece = await reader.read(); !piece.done; piece = await reader.read()) {
      const lines = (rest + piece.value).split('\n');
      rest = lines.pop() ?? '';
      for (const each of lines) {
        const line = JSON.parse(each) as L | Failed;
        if (isFailed(line)) throw new Error(line.message);
        onLine(line);
      }
    }
  };
  return {
    plan: async (onItems) => {
      let made: { readonly revision: number | null; readonly seq: number } | undefined;
      await follow<Line>('/line-check/plan', {}, (line) => {
        if (line.t === 'items') onItems(line.items);
        else if (line.t === 'planned') made = { revision: line.revision, seq: line.seq };
      });
      if (!made) throw new Error('The plan ended before it was complete.');
      return made;
    },
    rehearse: (items, onResult, signal) =>
      follow<Line>('/line-check/rehearse', { items }, (line) => line.t === 'result' && onResult(line.result), signal),
    replay: (order, onLine, signal) => follow<ReplayLine>('/replay', order, onLine, signal),
  };
}
