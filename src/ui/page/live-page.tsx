'use client';

import type { ReactNode } from 'react';
import { useConnection, useLive, useMarks, usePage } from '../live';
import { PageGrid } from './page-grid';
import { PressLine } from './press-line';

/** A page to press, as the engine runs it. Barred while it is not known to be true. */
export function LivePage({ page, none }: { readonly page: string; readonly none: ReactNode }) {
  const view = usePage(page);
  const live = useLive();
  const marks = useMarks();
  const connection = useConnection();
  if (view === null) return none;
  if (!view) return <p className="muted page-waiting">Fetching the page from the engine …</p>;
  const labelOf = (id: string) => view.faces[id]?.segments.map((segment) => segment.text).join('') ?? '';
  return (
    <div className="live-page">
      <PageGrid
        {...view}
        marks={marks}
        barred={connection.at !== 'open'}
        onPress={(control, guard) => void live.press(page, control, 'tap', guard)}
        onHold={(control, guard) => live.hold(page, control, guard)}
      />
      <PressLine labelOf={labelOf} />
      {view.layout.note && <p className="muted">{view.layout.note}</p>}
    </div>
  );
}
