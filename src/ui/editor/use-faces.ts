'use client';

import { useMemo, useRef } from 'react';
import { faceOf, type FaceView } from '../../core/face';
import { viewOf } from '../../core/page';
import { devicesOf, type ControlRecord } from '../../core/show';
import { useReadingsOf } from '../live';
import type { Facts } from './facts';

interface Known {
  readonly text: string;
  readonly face: FaceView;
}

/** The faces of the controls that are edited, as they are now. A face that did not change stays the same object. */
export function useFaces(
  { documentOf, tagOf }: Pick<Facts, 'documentOf' | 'tagOf'>,
  controls: readonly ControlRecord[],
) {
  const named = useMemo(() => [...new Set(controls.flatMap(({ data }) => devicesOf(data)))], [controls]);
  const readings = useReadingsOf(named);
  const known = useRef(new Map<string, Known>());
  const faces = useMemo(() => {
    const now = new Map<string, Known>();
    for (const { id, data } of controls) {
      const readingNow = (ref: { readonly device: string; readonly key: string }) =>
        readings.get(ref.device)?.[ref.key];
      const face = faceOf(data, readingNow, documentOf);
      const text = JSON.stringify(face);
      // eslint-disable-next-line react-hooks/refs -- a cache: what is in it decides only which of two equal objects is used
      const before = known.current.get(id);
      now.set(id, before?.text === text ? before : { text, face });
    }
    // eslint-disable-next-line react-hooks/refs
    known.current = now;
    return new Map([...now].map(([id, { face }]) => [id, face]));
  }, [documentOf, controls, readings]);
  const views = useMemo(
    () =>
      new Map(
        controls.map(({ id, data }) => [id, viewOf(data, { documentOf, tagOf: (device) => tagOf(device) ?? '?' })]),
      ),
    [documentOf, tagOf, controls],
  );
  return { faces, views };
}
