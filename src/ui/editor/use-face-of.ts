'use client';

import { faceOf, type FaceView } from '../../core/face';
import type { ControlRecord } from '../../core/show';
import { useNow } from '../live';
import { useFacts } from './facts';

/** The face of a control that may not be stored, as it would be now. */
export function useFaceOf(data: ControlRecord['data']): FaceView {
  const { readingNow, documentOf, presets, tagOf } = useFacts();
  return faceOf(data, { readingNow, documentOf, presets, tagOf, now: useNow() });
}
