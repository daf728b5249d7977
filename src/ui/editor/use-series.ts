'use client';

import { useMemo } from 'react';
import { renderLabel } from '../../core/face';
import type { FaceView } from '../../core/live';
import { countablesOf, groupsOf, planSeries, firstSend } from '../../core/page';
import type { ControlRecord, PageRecord } from '../../core/show';
import { newId } from '../parts';
import { useEditor } from './editor-store';
import { useFacts } from './facts';

/** The series that is being set up, with what dealing it would make now. */
export function useSeries(page: PageRecord, controls: readonly ControlRecord[]) {
  const draft = useEditor((state) => state.series);
  const ids = useEditor((state) => state.ids);
  const { documentOf, readings, readingNow } = useFacts();
  const control = draft && controls.find(({ id }) => ids.has(id));
  const send = control && firstSend(control.data);
  const document = send && documentOf(send.device);
  const listed = readings.get(send?.device ?? '');
  const plan = useMemo(
    () => (draft && control ? planSeries(page, control, controls, draft, document, listed ?? {}, newId) : undefined),
    [draft, control, page, controls, document, listed],
  );
  if (!draft || !control || !plan) return undefined;
  const faceOf = (data: ControlRecord['data']): FaceView => ({
    segments: renderLabel(data.label, data.values, readingNow, documentOf),
    lamp: { show: 'off' },
  });
  return {
    draft,
    control,
    over: draft.over,
    countables: countablesOf(control.data, document),
    members: plan.ok ? plan.value.members : [],
    plan,
    faceOf,
    groupsFor: (items: string | undefined) => groupsOf(document, items, listed ?? {}),
  };
}
