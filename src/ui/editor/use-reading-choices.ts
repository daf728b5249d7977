'use client';

import { useMemo } from 'react';
import type { ReadingChoices } from '../../core/page';
import { withOwn } from '../../core/show';
import { useRigFacts } from './facts';

/** What there is to choose readings from, for rules. */
export function useReadingChoices(): ReadingChoices {
  const { devices, documentOf, readings } = useRigFacts();
  return useMemo(() => ({ devices: withOwn(devices), documentOf, readings }), [devices, documentOf, readings]);
}
