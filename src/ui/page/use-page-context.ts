'use client';

import { useEffect, useState } from 'react';
import type { ControlView, PageView } from '../../core/live';
import { contextKey, isScreenKey, setBy, usualContext, withPick, type PageContext } from '../../core/page';
import { usePage, useTopicsAhead } from '../live';

/** The context of a page where it is kept elsewhere than on this screen while it is shown. */
export interface KeptContext {
  readonly context: PageContext;
  readonly set: (to: PageContext) => void;
}

type Sets = NonNullable<ControlView['sets']>;

/**
 * How this screen looks at a page: its shift level and what is picked in its zones, which are this screen's own. The levels are
 * kept up to date ahead, so that a shift shows at once; until the engine's answer is there, the page stays as it was and `current`
 * is false.
 */
export function usePageContext(page: string, keep?: KeptContext) {
  const [own, setOwn] = useState<PageContext>(usualContext);
  const chosen = keep?.context ?? own;
  const setChosen = (change: (before: PageContext) => PageContext) =>
    keep ? keep.set(change(chosen)) : setOwn(change);
  const key = contextKey(page, chosen);
  const fetched = usePage(key);
  const [last, setLast] = useState<PageView>();
  if (fetched && fetched !== last) setLast(fetched);
  // A level or a pick that the page does not have any more: the page as it usually is.
  const isGone = fetched === null && key !== page;
  useEffect(() => {
    if (isGone) queueMicrotask(() => (keep ? keep.set(usualContext) : setOwn(usualContext)));
  }, [isGone, keep]);
  const view = fetched === undefined ? last : fetched;
  const levels = view?.layout.shifts ?? [];
  useTopicsAhead(
    [undefined, ...levels.map(({ id }) => id)].map((shift) => `page:${contextKey(page, { ...chosen, shift })}`),
  );
  const pickedIn = (zone: string) => view?.layout.zones.find(({ id }) => id === zone)?.pick?.now;
  return {
    view,
    current: fetched !== undefined,
    context: key === page ? undefined : key,
    shift: chosen.shift,
    chooseShift: (shift: string | undefined) => setChosen((before) => ({ ...before, shift })),
    /** `undefined` gives the zone back to what it follows, or to its first device. */
    choosePick: (zone: string, device: string | undefined) => setChosen((before) => withPick(before, zone, device)),
    /** A control that chooses was pressed, or let go. */
    press: (sets: Sets, down: boolean) => setChosen((before) => setBy(before, sets, down)),
    isSet: (sets: Sets) =>
      !isScreenKey(sets) && ('zone' in sets ? pickedIn(sets.zone) === sets.device : chosen.shift === sets.shift),
  };
}
