'use client';

import { splitKey } from '../../core/driver';
import { changePageEdit, startValue } from '../../core/page';
import { ParamField, ReadingPicker } from '../fields';
import { useFacts } from './facts';
import { formPartClass } from '../kit';
import { useVerbs } from './verbs';

/** The reading that calls for this page: panels that follow the show go to it. */
export function CalledFields() {
  const verbs = useVerbs();
  const { page, documentOf, readings } = useFacts();
  const { calledBy } = page.data;
  const put = (to: typeof calledBy) =>
    void verbs.edit(changePageEdit(page, { calledBy: to }, 'What calls for the page'));
  const reading = calledBy && documentOf(calledBy.reading.device)?.readings[splitKey(calledBy.reading.key).family];
  return (
    <details className={formPartClass} open={calledBy !== undefined}>
      <summary>Called by a reading</summary>
      <p className="col-span-full text-[13px] text-ink-soft">
        Panels that follow the show go to this page while the reading has the value.
      </p>
      <ReadingPicker
        label="Reading"
        chosen={calledBy?.reading}
        none="none"
        onPick={(to) => put({ reading: to, is: startValue(documentOf(to.device), to.key, 1) })}
        onNone={() => put(undefined)}
      />
      {calledBy && reading && (
        <ParamField
          key={calledBy.reading.key}
          param={{ title: 'is', value: reading.value, sends: 'index', optional: false }}
          value={calledBy.is}
          readings={readings.get(calledBy.reading.device)}
          commits
          onChange={(is) => is !== undefined && put({ ...calledBy, is })}
        />
      )}
    </details>
  );
}
