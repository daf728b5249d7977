'use client';

import type { CSSProperties, ReactNode } from 'react';
import type { ControlView, FaceView, PageLayout } from '../../core/live';
import { zoneOf, type Area } from '../../core/page';
import { meaningWords } from '../../core/show';
import type { PressMark } from '../live';
import { textOf } from './face';
import { LiveControl } from './live-control';

interface Props {
  readonly layout: PageLayout;
  readonly controls: Readonly<Record<string, ControlView>>;
  readonly faces: Readonly<Record<string, FaceView>>;
  readonly marks: ReadonlyMap<string, PressMark>;
  readonly barred?: boolean;
  /** What lies over a control, instead of a hand; told its id and what its face says. */
  readonly over?: (id: string, name: string) => ReactNode;
  /** The context in which the page is looked at, where that is not the usual one. */
  readonly context?: string;
  /** True for what a control has chosen: a shift level, or what a zone drives. */
  readonly isSet?: (sets: NonNullable<ControlView['sets']>) => boolean;
  /** Picks what a zone drives; `undefined` gives it back to what it follows. */
  readonly onPick?: (zone: string, device: string | undefined) => void;
  readonly onPress: (id: string, guard: boolean) => void;
  /** Begins to hold a control; returns the way to let go. */
  readonly onHold?: (id: string, guard: boolean) => () => void;
}

/** With more columns than this, controls would be narrower than a finger's width on an upright tablet. */
const mostOnTablet = 8;

interface Placed {
  readonly id: string;
  readonly view: ControlView;
}

/**
 * A page: its zones with their controls. On a wide screen the grid is as it was laid out; on a narrow one the zones
 * stand one below the other, each with as many columns as fit.
 */
export function PageGrid(props: Props) {
  const { layout, controls } = props;
  const placed = Object.entries(controls)
    .map(([id, view]): Placed => ({ id, view }))
    .sort((a, b) => a.view.row - b.view.row || a.view.col - b.view.col);
  const groups = groupByZone(layout, placed);
  const rows = usedRows(placed);
  return (
    <div className="page-grid-box" style={{ '--many': layout.columns > mostOnTablet ? 1 : 0 } as CSSProperties}>
      <div
        className="page-grid"
        style={{
          gridTemplateColumns: `repeat(${layout.columns}, minmax(0, 1fr))`,
          gridTemplateRows: rows.map((used) => (used ? 'auto minmax(64px, 1fr)' : 'auto auto')).join(' '),
          ...({
            '--columns': layout.columns,
            '--rows': rows.filter(Boolean).length,
            '--gaps': rows.length * 2 - 1,
            '--heads': new Set(
              layout.zones.flatMap((zone) => (zone.title !== '' || picks(zone, placed) ? [zone.row] : [])),
            ).size,
          } as CSSProperties),
        }}
      >
        {groups.map(({ zone, members }) => (
          <section key={zone?.id ?? 'rest'} className="zone" aria-label={zone?.title ?? 'Outside the zones'}>
            {zone && (zone.title !== '' || picks(zone, placed)) && (
              <div
                className="zone-head mt-2 flex flex-wrap items-end gap-x-3 gap-y-1 self-end border-b border-rule-strong pb-0.75 [&_.zone-title]:m-0 [&_.zone-title]:border-0 [&_.zone-title]:p-0"
                style={{ gridColumn: `${zone.col + 1} / span ${zone.cols}`, gridRow: zone.row * 2 + 1 }}
              >
                <h2 className="zone-title">{zone.title}</h2>
                {zone.pick && picks(zone, placed) && <ZonePick zone={zone.id} pick={zone.pick} onPick={props.onPick} />}
              </div>
            )}
            <div className="zone-controls">{members.map((member) => control(props, member))}</div>
          </section>
        ))}
      </div>
    </div>
  );
}

/** Whether each row down to the last that is used has a control in it: those share the height. */
function usedRows(placed: readonly Placed[]): readonly boolean[] {
  const last = Math.max(0, ...placed.map(({ view }) => view.row + view.rows));
  return Array.from({ length: last }, (_, row) =>
    placed.some(({ view }) => view.row <= row && row < view.row + view.rows),
  );
}

function control(props: Props, { id, view }: Placed): ReactNode {
  const { layout, faces, marks, barred, context, isSet, onPress, onHold, over } = props;
  const own = faces[id];
  if (!own) return null;
  const chosen = view.sets !== undefined && isSet?.(view.sets);
  const face: FaceView =
    chosen && own.lamp.show === 'off' ? { ...own, lamp: { show: 'active', word: meaningWords.active } } : own;
  const holds = view.holds || (view.sets && 'shift' in view.sets && view.sets.while === 'held');
  return (
    <div
      key={id}
      className={over ? 'place relative' : 'place'}
      style={placeStyle(view)}
      data-chosen={(chosen && view.sets && 'zone' in view.sets) || undefined}
    >
      {/* What lies over a control is for the hand; the control below it is not. */}
      <div className="contents" inert={over !== undefined}>
        <LiveControl
          id={id}
          page={layout.id}
          context={context}
          face={face}
          view={view}
          mark={marks.get(id)}
          disabled={barred || !view.pressable}
          onPress={onPress}
          onHold={holds ? onHold : undefined}
        />
      </div>
      {over?.(id, textOf(face))}
    </div>
  );
}

/** True where the page has a control of its own for each device that a zone can drive. */
const isPickedByControls = (zone: string, pick: Pick, placed: readonly Placed[]): boolean =>
  !pick.follows &&
  pick.devices.every(({ id }) =>
    placed.some(({ view: { sets } }) => sets && 'zone' in sets && sets.zone === zone && sets.device === id),
  );

/** True where what a zone drives is picked beside its title. */
const picks = ({ id, pick }: PageLayout['zones'][number], placed: readonly Placed[]): boolean =>
  pick !== undefined && !isPickedByControls(id, pick, placed);

type Pick = NonNullable<PageLayout['zones'][number]['pick']>;

/** What a zone drives now, to be picked. */
function ZonePick({
  zone,
  pick,
  onPick,
}: {
  readonly zone: string;
  readonly pick: Pick;
  readonly onPick: Props['onPick'];
}) {
  return (
    <span
      className="flex items-center gap-1 [&_button]:min-h-11 [&_button]:min-w-12 [&_button]:border [&_button]:border-rule-strong [&_button]:px-2.5 [&_button]:font-mono [&_button]:font-semibold [&_button[aria-pressed=true]]:bg-accent [&_button[aria-pressed=true]]:text-accent-ink"
      role="group"
      aria-label="What it drives"
    >
      {pick.devices.map(({ id, tag, name }) => (
        <button
          key={id}
          type="button"
          aria-pressed={id === pick.now}
          aria-label={`${tag} ${name}`}
          title={name}
          onClick={() => onPick?.(zone, id)}
        >
          {tag}
        </button>
      ))}
      {pick.follows && (
        <button type="button" onClick={() => onPick?.(zone, undefined)}>
          follow
        </button>
      )}
      <span className="pl-1.5 font-semibold">{pick.devices.find(({ id }) => id === pick.now)?.name}</span>
    </span>
  );
}

/** Where an area lies in the grid: above each row of cells there is room for the titles of zones. */
export const placeStyle = ({ col, row, cols, rows }: Area): CSSProperties => ({
  gridColumn: `${col + 1} / span ${cols}`,
  gridRow: `${row * 2 + 2} / span ${rows * 2 - 1}`,
});

function groupByZone(layout: PageLayout, placed: readonly Placed[]) {
  const groups = layout.zones.map((zone) => ({
    zone: zone as PageLayout['zones'][number] | undefined,
    members: placed.filter(({ view }) => zoneOf(layout.zones, view) === zone),
  }));
  const rest = placed.filter(({ view }) => !zoneOf(layout.zones, view));
  if (rest.length === 0) return groups;
  const all = [...groups, { zone: undefined, members: rest }];
  // One below the other they stand in the order of the page, also what is outside the zones.
  const top = ({ members }: (typeof all)[number]) => Math.min(...members.map(({ view }) => view.row));
  return all.sort((a, b) => top(a) - top(b));
}
