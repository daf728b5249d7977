'use client';

import { createContext, useContext } from 'react';
import type { ReadingsView } from '../../core/live';
import type { Reading } from '../../core/reading';
import type { ReadingRef, ShowLookup } from '../../core/show';

/** What fields that choose commands and readings know of the rig now. */
export interface RigFacts extends ShowLookup {
  readonly readings: ReadonlyMap<string, ReadingsView>;
  readonly readingNow: (ref: ReadingRef) => Reading | undefined;
}

export const RigFactsContext = createContext<RigFacts | null>(null);

export function useRigFacts(): RigFacts {
  const facts = useContext(RigFactsContext);
  if (!facts) throw new Error('useRigFacts needs RigFactsContext above it.');
  return facts;
}
