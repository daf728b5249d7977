import { setMaxListeners } from 'node:events';

type Tell = (line: unknown) => void;

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
  const gone = new AbortController();
  // Many tries at a time listen to it.
  setMaxListeners(0, gone.signal);
  const text = new TextEncoder();
  const body = new ReadableStream<Uint8Array>({
    async start(stream) {
      const tell: Tell = (line) => {
        if (!gone.signal.aborted) stream.enqueue(text.encode(`${JSON.stringify(line)}\n`));
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
  return new Response(body, {
    headers: { 'content-type': 'application/x-ndjson; charset=utf-8', 'cache-control': 'no-store' },
  });
}
