import { useCallback, useEffect, useRef, useState } from 'react';
import type { DriverTrialLine, DriverTrialRequest } from '../../../core/live';
import { readLines } from '../../live';

/** One trial of the document at a device, as far as it has come. */
export function useTrial() {
  const [lines, setLines] = useState<readonly DriverTrialLine[]>([]);
  const [isRunning, setRunning] = useState(false);
  const [failed, setFailed] = useState<string>();
  const abort = useRef<AbortController>(undefined);
  const run = useCallback(async (request: DriverTrialRequest): Promise<void> => {
    abort.current?.abort();
    const own = new AbortController();
    abort.current = own;
    setLines([]);
    setFailed(undefined);
    setRunning(true);
    try {
      await readLines<DriverTrialLine>(
        '/api/driver-trial',
        request,
        (line) => setLines((before) => [...before, line]),
        own.signal,
      );
    } catch (error) {
      if (!own.signal.aborted) setFailed(error instanceof Error ? error.message : 'The trial broke off.');
    } finally {
      if (abort.current === own) setRunning(false);
    }
  }, []);
  const stop = useCallback(() => abort.current?.abort(), []);
  useEffect(() => stop, [stop]);
  return { lines, isRunning, failed, run, stop };
}
