/**
 * Asks the engine for something that it answers line by line.
 *
 * @param onLine told each line as it comes
 * @returns resolves when there are no more; rejects with a sentence when it was refused or broke off
 */
export async function readLines<Line>(
  path: string,
  body: unknown,
  onLine: (line: Line) => void,
  signal: AbortSignal,
): Promise<void> {
  const response = await fetch(path, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
    signal,
  }).catch((error: unknown) => {
    if (signal.aborted) throw error;
    throw new Error('The desk is cut off from the engine. Try again in a moment.');
  });
  if (!response.ok || !response.body) {
    const said = (await response.json().catch(() => undefined)) as { error?: { message?: string } } | undefined;
    throw new Error(said?.error?.message ?? `The engine answered with ${response.status}.`);
  }
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    const lines = (rest + value).split('\n');
    rest = lines.pop() ?? '';
    for (const line of lines) onLine(JSON.parse(line) as Line);
  }
}
