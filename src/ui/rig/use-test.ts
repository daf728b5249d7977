'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import type { TestLine, TestRequest } from '../../core/live';
import { useDesk } from '../desk';
import { readLines } from '../live';

/** One device's test as far as it has come. */
export interface DeviceTest {
  readonly stages: readonly Required<Pick<TestLine, 'stage' | 'ms' | 'verdict'>>[];
  readonly done: boolean;
  readonly says: TestLine['says'];
  readonly exchange: TestLine['exchange'];
}

export type Tests = ReadonlyMap<string, DeviceTest>;
const nothing: Tests = new Map();
const begun: DeviceTest = { stages: [], done: false, says: undefined, exchange: undefined };

function enter(tests: Tests, { device, stage, ms, verdict, says, exchange }: TestLine): Tests {
  const known = tests.get(device) ?? begun;
  const next =
    stage === undefined || ms === undefined || verdict === undefined
      ? { ...known, done: true, says, exchange }
      : { ...known, stages: [...known.stages, { stage, ms, verdict }] };
  return new Map(tests).set(device, next);
}

/**
 * Runs connection tests and keeps what they found, by device. A new run of a device begins anew; leaving the screen ends it. What was edited
 * just before is tested as edited.
 */
export function useTests() {
  const { settled } = useDesk();
  const [tests, setTests] = useState(nothing);
  const [running, setRunning] = useState(0);
  const [failed, setFailed] = useState<string>();
  const cancel = useRef<AbortController>(undefined);
  /** True when it ran to its end. */
  const run = useCallback(
    async (request: TestRequest, devices: readonly string[]): Promise<boolean> => {
      cancel.current?.abort();
      const own = new AbortController();
      cancel.current = own;
      setFailed(undefined);
      setTests((before) => new Map([...before, ...devices.map((id) => [id, begun] as const)]));
      setRunning((count) => count + 1);
      try {
        await settled();
        await readLines<TestLine>(
          '/api/test',
          request,
          (line) => setTests((before) => enter(before, line)),
          own.signal,
        );
        return true;
      } catch (error) {
        if (!own.signal.aborted) setFailed(error instanceof Error ? error.message : 'The test was interrupted.');
        return false;
      } finally {
        setRunning((count) => count - 1);
      }
    },
    [settled],
  );
  const stop = useCallback(() => cancel.current?.abort(), []);
  useEffect(() => stop, [stop]);
  return { tests, running: running > 0, failed, run, stop };
}
