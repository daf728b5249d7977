'use client';

import { useMemo } from 'react';
import type { ReadingChoices } from '../../core/page';
import { useRigFacts } from './rig-facts';

/** What there is to choose readings from, for rules. */
export function useReadingChoices(): ReadingChoices {
  const { readable, documentOf, readings } = useRigFacts();
  return useMemo(() => ({ devices: readable, documentOf, readings }), [readable, documentOf, readings]);
}
