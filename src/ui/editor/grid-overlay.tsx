'use client';

import type { FaceView } from '../../core/live';
import type { ControlRecord, PageRecord } from '../../core/show';

import { placeStyle, textOf } from '../page';
import { useEditor } from './editor-store';
import { useSeries } from './use-series';

interface Props {
  readonly page: PageRecord;
  readonly controls: readonly ControlRecord[];
}

/** What lies over the grid: where a drag would put things, the area that is chosen, and the members that a series would get. */
export function GridOverlay({ page, controls }: Props) {
  const preview = useEditor((state) => state.preview);
  const area = useEditor((state) => state.area);
  const carried = useEditor((state) => state.carried);
  return (
    <>
      {area && !preview && (area.cols > 1 || area.rows > 1) && (
        <i className="pointer-events-none z-3 border-2 border-dashed border-accent" style={placeStyle(area)} />
      )}
      {preview && (
        // On a layer of its own: what changes there while something is dragged moves nothing else.
        <div className="pointer-events-none absolute inset-0 z-3 [contain:strict] [&_i]:absolute" aria-hidden>
          {preview.boxes.map((box, n) => (
            <i
              key={n}
              className={
                preview.refused
                  ? 'pointer-events-none z-3 border-3 border-dotted border-ink hatch'
                  : 'pointer-events-none z-3 border-3 border-accent bg-[color-mix(in_srgb,var(--accent)_14%,transparent)]'
              }
              style={box}
            />
          ))}
        </div>
      )}
      {carried && (
        <span className="col-span-full py-1.5 text-ink-soft">
          Choose the cell for “{carried.title}”. Escape puts it back.
        </span>
      )}
      <SeriesOverlay page={page} controls={controls} />
    </>
  );
}

function SeriesOverlay({ page, controls }: Props) {
  const series = useSeries(page, controls);
  if (!series) return null;
  return (
    <>
      <i className="pointer-events-none z-3 border-2 border-dashed border-accent" style={placeStyle(series.over)} />
      {series.members.slice(1).map(({ id, data }) => (
        <span
          key={id}
          className="overlay-member pointer-events-none z-3 flex items-center justify-center overflow-hidden border-2 border-dashed border-ink-soft bg-tape p-1 text-center font-semibold font-stretch-[82%]"
          style={placeStyle(data)}
        >
          {textOf(series.faceOf(data) satisfies FaceView)}
        </span>
      ))}
    </>
  );
}
