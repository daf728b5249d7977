'use client';

import { useMemo, useRef, type ReactNode } from 'react';
import { isScreenKey, type ScreenKey } from '../../core/page';
import { useConnection, useLive, useMarks } from '../live';
import { textOf } from './face';
import { Legend } from './legend';
import { PageGrid } from './page-grid';
import { PressLine } from './press-line';
import { QuestionForm } from './question-form';
import { ScrollsContext } from './use-hand';
import { ScrollRail, useScrolls } from './scroll-rail';
import { usePageContext, type KeptContext } from './use-page-context';

interface Props {
  readonly page: string;
  /** Shown when the page does not exist. */
  readonly none: ReactNode;
  /** Controls that are left out. */
  readonly hidden?: readonly string[];
  readonly keep?: KeptContext;
  /** A page key was pressed. */
  readonly onScreenKey?: (sets: ScreenKey) => void;
  /** What lies over each control, so that nothing is pressed. */
  readonly over?: (id: string, name: string) => ReactNode;
}

const nothing: readonly string[] = [];

/** A page to press, as the engine runs it. Barred while it is not known to be true. */
export function LivePage({ page, none, hidden = nothing, keep, onScreenKey, over }: Props) {
  const live = useLive();
  const marks = useMarks();
  const connection = useConnection();
  const { view, current, context, shift, chooseShift, choosePick, press, isSet } = usePageContext(page, keep);
  const controls = useMemo(
    () => Object.fromEntries(Object.entries(view?.controls ?? {}).filter(([id]) => !hidden.includes(id))),
    [view?.controls, hidden],
  );
  const box = useRef<HTMLDivElement>(null);
  const scrolls = useScrolls(box, page);
  if (view === null) return none;
  if (!view) return <p className="py-6 text-ink-soft">Fetching the page from the engine …</p>;
  const labelOf = (id: string) => textOf(view.faces[id]);
  const { shifts } = view.layout;
  const asking = [...marks.values()].findLast(({ asks, outcome }) => asks && outcome === 'waiting');

  const onSet = (id: string, down: boolean): void => {
    const sets = view.controls[id]?.sets;
    if (!sets) return;
    if (!isScreenKey(sets)) return press(sets, down);
    if (down) onScreenKey?.(sets);
  };
  const sends = (id: string) => view.controls[id]?.sends ?? false;
  return (
    <div className="live-page" ref={box} data-scrolls={scrolls || undefined}>
      {shifts.length > 0 && (
        <div
          className="flex gap-1 pt-2 [&_button]:min-h-11 [&_button]:min-w-12 [&_button]:border [&_button]:border-rule-strong [&_button]:px-2.5 [&_button]:font-semibold [&_button[aria-pressed=true]]:bg-accent [&_button[aria-pressed=true]]:text-accent-ink"
          role="group"
          aria-label="Level"
        >
          {[{ id: undefined, name: 'usual' }, ...shifts].map((level) => (
            <button
              key={level.id ?? ''}
              type="button"
              aria-pressed={shift === level.id}
              onClick={() => chooseShift(level.id)}
            >
              {level.name}
            </button>
          ))}
        </div>
      )}
      <ScrollsContext value={scrolls}>
        <PageGrid
          {...view}
          controls={controls}
          marks={marks}
          // While another level is fetched, the page still shows the controls of the level before.
          barred={connection.at !== 'open' || !current}
          context={context}
          {...(over ? { over } : {})}
          isSet={isSet}
          onPick={choosePick}
          onPress={(id, guard) => {
            onSet(id, true);
            if (sends(id)) live.press(page, id, 'tap', guard, context);
          }}
          onHold={(id, guard) => {
            onSet(id, true);
            const release = view.controls[id]?.holds ? live.hold(page, id, guard, context) : undefined;
            if (!release && sends(id)) live.press(page, id, 'tap', guard, context);
            return () => {
              release?.();
              onSet(id, false);
            };
          }}
        />
      </ScrollsContext>
      {scrolls && <ScrollRail box={box} />}
      {asking?.asks && (
        <QuestionForm
          key={asking.id}
          title={labelOf(asking.control)}
          asks={asking.asks}
          onAnswer={(given) => live.answer(asking.id, given)}
        />
      )}
      <PressLine labelOf={labelOf} />
      <Legend legend={view.layout.legend} />
      {view.layout.note && <p className="text-ink-soft">{view.layout.note}</p>}
    </div>
  );
}
