'use client';

import type { Lamp } from '../../core/lamp';
import { viewOf } from '../../core/page';
import { meaningWords, type ControlRecord } from '../../core/show';
import { Face } from '../page';
import { useFacts } from './facts';
import { useFaceOf } from './use-face-of';

/** The face in each state that its lamps can give it, as large as on a panel and as on a phone. */
export function FacePreview({ data }: { readonly data: ControlRecord['data'] }) {
  const { documentOf, tagOf, macroOf, page } = useFacts();
  const face = useFaceOf(data);
  const view = viewOf(data, { documentOf, tagOf: page.data.badges ? tagOf : () => undefined, macroOf });
  const lamps: readonly Lamp[] = [
    { show: 'off' },
    ...data.lamps.flatMap(({ show, word, blink }): Lamp[] =>
      show ? [{ show, word: word ?? meaningWords[show], ...(blink ? { blink } : {}) }] : [],
    ),
    { show: 'unknown' },
  ];
  return (
    <details>
      <summary>How it looks</summary>
      {(['panel', 'phone'] as const).map((size) => (
        <div
          key={size}
          className={`flex flex-wrap items-end gap-2 pt-2 ${size === 'panel' ? '[&_.control]:h-26 [&_.control]:w-35' : '[&_.control]:h-21 [&_.control]:w-26'}`}
        >
          <span className="flex-[1_1_100%] text-[13px] text-ink-soft">{size}</span>
          {lamps.map((lamp, n) => (
            <span key={n} className={`control control-${lamp.show}`}>
              <Face face={{ ...face, lamp }} view={view} />
            </span>
          ))}
        </div>
      ))}
    </details>
  );
}
