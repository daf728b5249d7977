'use client';

import { useState } from 'react';
import { ownId } from '../../core/show';
import { useLive, useMarks, type PressMark } from '../live';

/** Calls snapshots up from this screen, and knows what came of the last call. */
export interface Calls {
  readonly call: (command: 'callUp' | 'cutTo', snapshot: number) => void;
  /** What came of it, for the snapshot that was called up last. */
  readonly markOf: (snapshot: number) => PressMark | undefined;
}

export function useCalls(): Calls {
  const live = useLive();
  const mark = useMarks().get(ownId);
  const [last, setLast] = useState<number>();
  return {
    call: (command, snapshot) => {
      setLast(snapshot);
      live.tryCommand(ownId, command, { snapshot }, { gesture: 'tap' });
    },
    markOf: (snapshot) => (snapshot === last ? mark : undefined),
  };
}
