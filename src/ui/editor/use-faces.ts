'use client';

import { useMemo, useRef, useState } from 'react';
import { faceNow, type FaceView } from '../../core/face';
import type { LampMemory } from '../../core/lamp';
import { viewOf } from '../../core/page';
import { camerasOf } from '../../core/preset';
import type { Reading } from '../../core/reading';
import { devicesOf, ownId, readingId, type ControlRecord, type ReadingRef } from '../../core/show';
import { useNow, useReadingsOf } from '../live';
import type { Facts } from './facts';

/** What the rules of each control remember from one look to the next, for as long as they are the same rules. */
class Memories {
  private readonly known = new Map<string, { readonly lamps: unknown; readonly memory: LampMemory }>();

  of(id: string, { lamps }: ControlRecord['data']): LampMemory {
    const known = this.known.get(id);
    if (known?.lamps === lamps) return known.memory;
    const memory: LampMemory = new Map();
    this.known.set(id, { lamps, memory });
    return memory;
  }
}

interface Known {
  readonly text: string;
  readonly face: FaceView;
}

/** The faces of the controls that are edited, as they are now. A face that did not change stays the same object. */
export function useFaces(
  { documentOf, tagOf, macroOf, presets }: Pick<Facts, 'documentOf' | 'tagOf' | 'macroOf' | 'presets'>,
  controls: readonly ControlRecord[],
  tried: ReadonlyMap<string, Reading>,
) {
  const named = useMemo(
    () => [
      ...new Set(
        controls.flatMap(({ data }) => [
          ...devicesOf(data),
          ...(data.presets ? camerasOf(data.presets, presets()) : []),
        ]),
      ),
      ownId,
    ],
    [controls, presets],
  );
  const readings = useReadingsOf(named);
  const time = useNow();
  const [memories] = useState(() => new Memories());
  const known = useRef(new Map<string, Known>());
  const faces = useMemo(() => {
    const now = new Map<string, Known>();
    for (const { id, data } of controls) {
      const readingNow = (ref: ReadingRef) => tried.get(readingId(ref)) ?? readings.get(ref.device)?.[ref.key];
      const sources = { readingNow, documentOf, now: time, presets, tagOf };
      const { face } = faceNow(data, sources, memories.of(id, data));
      const text = JSON.stringify(face);
      // eslint-disable-next-line react-hooks/refs -- a cache: what is in it decides only which of two equal objects is used
      const before = known.current.get(id);
      now.set(id, before?.text === text ? before : { text, face });
    }
    // eslint-disable-next-line react-hooks/refs
    known.current = now;
    return new Map([...now].map(([id, { face }]) => [id, face]));
  }, [documentOf, controls, readings, tried, time, memories, presets, tagOf]);
  const views = useMemo(
    () =>
      new Map(
        controls.map(({ id, data }) => [
          id,
          viewOf(data, { documentOf, tagOf: (device) => tagOf(device) ?? '?', macroOf }),
        ]),
      ),
    [documentOf, tagOf, macroOf, controls],
  );
  return { faces, views };
}
