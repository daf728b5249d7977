'use client';

import { createContext, useContext } from 'react';
import type { ControlProblem, PageProblem } from '../../core/check';
import type { ReadingsView } from '../../core/live';
import type { Reading } from '../../core/reading';
import type { ControlRecord, DeskView, PageRecord, ReadingRef, ShowLookup } from '../../core/show';

/** What fields that choose commands and readings know of the rig now. */
export interface RigFacts extends ShowLookup {
  readonly readings: ReadonlyMap<string, ReadingsView>;
  readonly readingNow: (ref: ReadingRef) => Reading | undefined;
}

/** What the page editor's parts know of the show and of the devices now. */
export interface Facts extends RigFacts {
  readonly show: DeskView;
  readonly page: PageRecord;
  readonly controls: readonly ControlRecord[];
  /** What of a control will not work. */
  readonly problemsOf: (control: ControlRecord) => readonly ControlProblem[];
  /** What of the page itself will not work. */
  readonly pageProblems: readonly PageProblem[];
  /** What of it would work, but show nothing as the devices are now. */
  readonly warningsOf: (control: ControlRecord) => readonly string[];
}

export const FactsContext = createContext<Facts | null>(null);

export function useFacts(): Facts {
  const facts = useContext(FactsContext);
  if (!facts) throw new Error('useFacts needs an editor above it.');
  return facts;
}

export const RigFactsContext = createContext<RigFacts | null>(null);

export function useRigFacts(): RigFacts {
  const facts = useContext(RigFactsContext);
  if (!facts) throw new Error('useRigFacts needs an editor above it.');
  return facts;
}
