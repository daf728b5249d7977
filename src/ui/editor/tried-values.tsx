'use client';

import { X } from 'lucide-react';
import { splitKey } from '../../core/driver';
import { readingsOfLamps } from '../../core/lamp';
import { readingName } from '../../core/page';
import { readingId, type ControlRecord, type ReadingRef } from '../../core/show';
import { useLive } from '../live';

import { ParamField } from '../fields';
import { useEditor, useEditorStore } from './editor-store';
import { Button } from '../kit';
import { useFacts } from './facts';

/** Values tried by hand for what the rules look at: the editor shows what would be, and no device is touched. */
export function TriedValues({ control }: { readonly control: ControlRecord }) {
  const store = useEditorStore();
  const live = useLive();
  const tried = useEditor((state) => state.tried);
  const { documentOf, tagOf, readingNow } = useFacts();
  const refs = [...new Map(readingsOfLamps(control.data).map((ref) => [readingId(ref), ref])).values()];
  const put = (ref: ReadingRef, value: string | number | boolean | undefined) => {
    const next = new Map(store.getState().tried);
    const at = live.now();
    if (value === undefined) next.delete(readingId(ref));
    else next.set(readingId(ref), { value, at, since: at, changed: true, freshness: 'fresh' });
    store.setState({ tried: next });
  };
  const own = refs.filter((ref) => tried.has(readingId(ref)));
  return (
    <details className="tried-values" open={own.length > 0}>
      <summary>Try values</summary>
      <p className="col-span-full text-[13px] text-ink-soft">Only the editor shows them; no device is touched.</p>
      {refs.map((ref) => {
        const shape = documentOf(ref.device)?.readings[splitKey(ref.key).family]?.value;
        return (
          shape && (
            <div key={readingId(ref)} className="flex items-end gap-1.5 [&>label]:min-w-0 [&>label]:flex-1">
              <ParamField
                param={{
                  title: readingName(ref, { documentOf, tagOf }),
                  value: shape,
                  sends: 'index',
                  optional: false,
                }}
                value={readingNow(ref)?.value}
                commits
                onChange={(value) => put(ref, value)}
              />
              {tried.has(readingId(ref)) && (
                <Button
                  aria-label={`The device’s own ${readingName(ref, { documentOf, tagOf })}`}
                  onClick={() => put(ref, undefined)}
                >
                  <X size={16} aria-hidden />
                </Button>
              )}
            </div>
          )
        );
      })}
      {own.length > 0 && (
        <div className="col-span-full flex flex-wrap gap-2.5">
          <Button onClick={() => store.setState({ tried: new Map() })}>Use the values of the devices</Button>
        </div>
      )}
    </details>
  );
}
