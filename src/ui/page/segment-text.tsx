'use client';

import { useEffect, useState } from 'react';
import { clockSeconds, clockText, type FaceSegment } from '../../core/face';
import { useLive } from '../live';
import { VeiledText } from '../parts';

/** A piece of a label; a clock that runs on counts here, with the engine's time. */
export function SegmentText({ segment }: { readonly segment: FaceSegment }) {
  return segment.clock ? (
    <RunningText clock={segment.clock} first={segment.text} />
  ) : (
    <VeiledText text={segment.text} />
  );
}

function RunningText({ clock, first }: { readonly clock: NonNullable<FaceSegment['clock']>; readonly first: string }) {
  const live = useLive();
  const [text, setText] = useState(first);
  useEffect(() => {
    const tick = () => setText(clockText(clockSeconds(clock, live.now())));
    const soon = setTimeout(tick, 0);
    const timer = setInterval(tick, 200);
    return () => {
      clearTimeout(soon);
      clearInterval(timer);
    };
  }, [clock, live]);
  return text;
}
