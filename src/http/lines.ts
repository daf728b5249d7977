import { setMaxListeners } from 'node:events';

type Tell = (line: unknown) => void;

/** The most pieces of an answer that wait for their reader. */
const mostUnread = 10_000;

/**
 * An answer of a JSON object a line, each as soon as it is known. Hanging up ends the work: its signal is aborted.
 *
 * @param work tells the lines; it begins when somebody reads, and the answer ends with it
 * @param onFault told when the work failed; what it returns is the last line
 */
export function answerLines(
  work: (tell: Tell, signal: AbortSignal) => Promise<void>,
  onFault: (cause: unknown) => unknown,
): Response {
  const line = (value: unknown) => `${JSON.stringify(value)}\n`;
  return answerText(
    'application/x-ndjson; charset=utf-8',
    (tell, signal) => work((value) => tell(line(value)), signal),
    (cause) => line(onFault(cause)),
  );
}

/**
 * An answer of pieces of text, each as soon as it is known. Hanging up ends the work: its signal is aborted.
 *
 * @param work tells the pieces; it begins when somebody reads, and the answer ends with it
 * @param onFault told when the work failed; what it returns is the last piece
 */
export function answerText(
  type: string,
  work: (tell: (text: string) => void, signal: AbortSignal) => Promise<void>,
  onFault: (cause: unknown) => string,
): Response {
  const gone = new AbortController();
  // Many tries at a time listen to it.
  setMaxListeners(0, gone.signal);
  const text = new TextEncoder();
  const body = new ReadableStream<Uint8Array>({
    async start(stream) {
      const tell = (piece: string) => {
        if (gone.signal.aborted) return;
        stream.enqueue(text.encode(piece));
        // A client that does not read is disconnected before the pieces fill the memory.
        if ((stream.desiredSize ?? 0) > -mostUnread) return;
        gone.abort();
        stream.error(new Error('The client does not read.'));
      };
      try {
        await work(tell, gone.signal);
      } catch (cause) {
        // A client that has gone ends the work with an error of its own.
        if (!gone.signal.aborted) tell(onFault(cause));
      }
      if (!gone.signal.aborted) stream.close();
    },
    cancel: () => gone.abort(),
  });
  return new Response(body, { headers: { 'content-type': type, 'cache-control': 'no-store' } });
}
