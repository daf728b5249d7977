'use client';

import { mostCells, sameArea, type Area } from '../../core/page';
import type { ControlRecord } from '../../core/show';
import { CommitInput, formPartClass } from '../kit';
import { useEditorStore } from './editor-store';
import { useVerbs } from './verbs';

const fields = [
  { name: 'col', title: 'Column', plus: 1 },
  { name: 'row', title: 'Row', plus: 1 },
  { name: 'cols', title: 'Cells wide', plus: 0 },
  { name: 'rows', title: 'Cells high', plus: 0 },
] as const;

/** Place and size as numbers, for those who do not drag. */
export function PlaceFields({ control }: { readonly control: ControlRecord }) {
  const verbs = useVerbs();
  const store = useEditorStore();
  const { col, row, cols, rows } = control.data;
  const area: Area = { col, row, cols, rows };
  const set = (to: Area) => {
    if (sameArea(area, to)) return;
    store.setState({ ids: new Set([control.id]) });
    if (to.cols !== cols || to.rows !== rows) verbs.resize(control.id, to);
    else verbs.move({ col: to.col - col, row: to.row - row });
  };
  return (
    <details className={formPartClass}>
      <summary>
        Place{' '}
        <span className="text-[14px] font-normal text-ink-soft">
          column {col + 1}, row {row + 1}, {cols} by {rows}
        </span>
      </summary>
      <AreaFields area={area} onArea={set} />
    </details>
  );
}

/** An area as four numbers; columns and rows are counted from 1, as people do. */
export function AreaFields({ area, onArea }: { readonly area: Area; readonly onArea: (area: Area) => void }) {
  return (
    <div className="grid grid-cols-[repeat(4,1fr)] items-end gap-2 pt-2 [&_input]:w-full [&_input]:min-w-0">
      {fields.map(({ name, title, plus }) => (
        <label key={name}>
          {title}
          <CommitInput
            type="number"
            min={1}
            max={mostCells}
            value={String(area[name] + plus)}
            onCommit={(text) =>
              onArea({
                col: area.col,
                row: area.row,
                cols: area.cols,
                rows: area.rows,
                [name]: (Number(text) || 1) - plus,
              })
            }
          />
        </label>
      ))}
    </div>
  );
}
