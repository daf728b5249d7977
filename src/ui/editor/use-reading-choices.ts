'use client';

import { useMemo } from 'react';
import type { ReadingChoices } from '../../core/page';
import { withOwn } from '../../core/show';
import { useFacts } from './facts';

/** What there is to choose readings from, for rules. */
export function useReadingChoices(): ReadingChoices {
  const { devices, documentOf, readings } = useFacts();
  return useMemo(() => ({ devices: withOwn(devices), documentOf, readings }), [devices, documentOf, readings]);
}
