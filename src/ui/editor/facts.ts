'use client';

import { createContext, useContext } from 'react';
import type { ControlProblem, PageProblem } from '../../core/check';
import type { ControlRecord, DeskView, PageRecord } from '../../core/show';
import type { RigFacts } from '../fields';

/** What the page editor's parts know of the show and of the devices now. */
export interface Facts extends RigFacts {
  readonly show: DeskView;
  readonly page: PageRecord;
  readonly controls: readonly ControlRecord[];
  /** What of a control will not work. */
  readonly problemsOf: (control: ControlRecord) => readonly ControlProblem[];
  /** What of a control that was made for one device another one does not have. */
  readonly lackingWith: (control: ControlRecord, made: string, device: string) => readonly string[];
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
