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
      {area && !preview && (area.cols > 1 || area.rows > 1) && <i className="overlay-area" style={placeStyle(area)} />}
      {preview && (
        <div className="overlay-layer" aria-hidden>
          {preview.boxes.map((box, n) => (
            <i key={n} className={preview.refused ? 'overlay-bad' : 'overlay-good'} style={box} />
          ))}
        </div>
      )}
      {carried && <span className="overlay-say">Choose the cell for “{carried.title}”. Escape puts it back.</span>}
      <SeriesOverlay page={page} controls={controls} />
    </>
  );
}

function SeriesOverlay({ page, controls }: Props) {
  const series = useSeries(page, controls);
  if (!series) return null;
  return (
    <>
      <i className="overlay-area" style={placeStyle(series.over)} />
      {series.members.slice(1).map(({ id, data }) => (
        <span key={id} className="overlay-member" style={placeStyle(data)}>
          {textOf(series.faceOf(data) satisfies FaceView)}
        </span>
      ))}
    </>
  );
}
