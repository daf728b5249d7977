'use client';

import { clockText, type FaceSegment } from '../../core/face';
import { useClockSeconds } from '../live';
import { VeiledText } from '../parts';

/** A piece of a label. A running clock counts on the screen, by the engine's time. */
export function SegmentText({ segment }: { readonly segment: FaceSegment }) {
  const seconds = useClockSeconds(segment.clock);
  return seconds === undefined ? <VeiledText text={segment.text} /> : clockText(seconds);
}
