'use client';

import type { ReactNode } from 'react';
import type { ControlView, FaceView, PageLayout } from '../../core/live';
import type { Cell } from '../../core/show';
import type { PressMark } from '../live';
import { ControlButton } from './control-button';

interface Props {
  readonly layout: PageLayout;
  readonly controls: Readonly<Record<string, ControlView>>;
  readonly faces: Readonly<Record<string, FaceView>>;
  readonly marks: ReadonlyMap<string, PressMark>;
  readonly barred?: boolean;
  readonly chosen?: string;
  readonly editing?: boolean;
  readonly emptyCells?: readonly Cell[];
  readonly onPress: (id: string, guard: boolean) => void;
  /** Begins to hold a control; returns the way to let go. */
  readonly onHold?: (id: string, guard: boolean) => () => void;
  readonly onAdd?: (cell: Cell) => void;
}

interface Placed {
  readonly id: string;
  readonly view: ControlView;
}

/**
 * A page: its zones with their controls. On a wide screen the grid is as it was laid out; on a narrow one the zones
 * stand one below the other, each with as many columns as fit.
 */
export function PageGrid(props: Props) {
  const { layout, controls, emptyCells = [] } = props;
  const placed = Object.entries(controls)
    .map(([id, view]): Placed => ({ id, view }))
    .sort((a, b) => a.view.row - b.view.row || a.view.col - b.view.col);
  const groups = groupByZone(layout, placed);
  return (
    <div className="page-grid-box">
      <div
        className="page-grid"
        style={{
          gridTemplateColumns: `repeat(${layout.columns}, minmax(0, 1fr))`,
          gridTemplateRows: `repeat(${layout.rows}, auto auto)`,
        }}
      >
        {groups.map(({ zone, members }) => (
          <section key={zone?.id ?? 'rest'} className="zone" aria-label={zone?.title ?? 'Outside the zones'}>
            {zone && (
              <h2
                className="zone-title"
                style={{ gridColumn: `${zone.col + 1} / span ${zone.cols}`, gridRow: zone.row * 2 + 1 }}
              >
                {zone.title}
              </h2>
            )}
            <div className="zone-controls">{members.map((member) => control(props, member))}</div>
          </section>
        ))}
        {emptyCells.map(({ col, row }) => (
          <button
            key={`${col} ${row}`}
            type="button"
            className="empty-cell"
            style={{ gridColumn: col + 1, gridRow: row * 2 + 2 }}
            onClick={() => props.onAdd?.({ col, row })}
            aria-label={`Add a button in column ${col + 1}, row ${row + 1}`}
          >
            +
          </button>
        ))}
      </div>
    </div>
  );
}

function control({ faces, marks, barred, chosen, editing, onPress, onHold }: Props, { id, view }: Placed): ReactNode {
  const face = faces[id];
  if (!face) return null;
  return (
    <ControlButton
      key={id}
      id={id}
      face={face}
      mark={marks.get(id)}
      disabled={barred || (!editing && !view.pressable)}
      chosen={chosen === id}
      editing={editing}
      single={view.cols === 1 && view.rows === 1}
      readout={!editing && !view.pressable}
      guarded={view.guarded}
      onPress={onPress}
      onHold={view.holds && !editing ? onHold : undefined}
      style={{
        gridColumn: `${view.col + 1} / span ${view.cols}`,
        gridRow: `${view.row * 2 + 2} / span ${view.rows * 2 - 1}`,
      }}
    />
  );
}

function groupByZone(layout: PageLayout, placed: readonly Placed[]) {
  const inZone = (zone: PageLayout['zones'][number], { view }: Placed) =>
    view.col >= zone.col && view.col < zone.col + zone.cols && view.row >= zone.row && view.row < zone.row + zone.rows;
  const groups = layout.zones.map((zone) => ({
    zone: zone as PageLayout['zones'][number] | undefined,
    members: placed.filter((each) => layout.zones.find((candidate) => inZone(candidate, each)) === zone),
  }));
  const rest = placed.filter((each) => !layout.zones.some((zone) => inZone(zone, each)));
  return rest.length > 0 ? [...groups, { zone: undefined, members: rest }] : groups;
}
