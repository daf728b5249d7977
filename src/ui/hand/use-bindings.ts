'use client';

import { useEffect, useMemo, useState } from 'react';
import { readBindings, type Binding } from '../../core/hand';
import type { GearBindings } from '../../core/live';
import { useGearBindings, useLive } from '../live';

/** Earlier versions kept the bindings in the browser. */
const keptBefore = 'sorrelfinch-gear';

const none: readonly Binding[] = [];
/** How long a binding counts that the show does not have yet. */
const waitsMs = 5000;

/**
 * What the gear at the screens of a panel is bound to. It belongs to the panel, so that it is the same at every computer; what a browser still
 * has of its own moves there.
 */
export function useBindings(panel: string | undefined, isKnown: boolean) {
  const live = useLive();
  const all = useGearBindings();
  const text = useMemo(() => {
    // Before it is known which panel this is, nothing is bound.
    if (!isKnown) return undefined;
    const own = (all as GearBindings | undefined)?.bindings.filter((each) => each.panel === panel);
    return own && JSON.stringify(own.map(({ panel: _, ...binding }) => binding));
  }, [all, panel, isKnown]);
  const [made, setMade] = useState<readonly Binding[]>(none);
  const now = useMemo(() => {
    const kept = text === undefined ? none : (JSON.parse(text) as readonly Binding[]);
    // What was just made counts at once, until the show has it.
    const waiting = made.filter((each) => !kept.some((known) => isKept(known, each)));
    return JSON.stringify([...kept.filter((each) => !waiting.some((other) => isSameInput(each, other))), ...waiting]);
  }, [text, made]);
  // The same object as long as nothing of this panel changes: what is held goes on.
  const bindings = useMemo(() => JSON.parse(now) as readonly Binding[], [now]);
  const put = ({ id: _, ...binding }: Binding) => {
    if (!live.bind({ do: 'put', binding: { ...binding, ...(panel === undefined ? {} : { panel }) } })) return;
    setMade((before) => [...before.filter((each) => !isSameInput(each, binding)), binding]);
    // It was refused, or it is another by now.
    setTimeout(() => setMade((before) => before.filter((each) => each !== binding)), waitsMs);
  };
  const remove = ({ id }: Binding) => id !== undefined && live.bind({ do: 'remove', id });
  useEffect(() => {
    if (text === undefined) return;
    const own = panel === undefined ? {} : { panel };
    for (const { id: _, ...binding } of takeKept()) live.bind({ do: 'put', binding: { ...binding, ...own } });
    // Once, when it is known which panel this is.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [text === undefined]);
  return { bindings, put, remove };
}

function takeKept(): readonly Binding[] {
  try {
    const kept = localStorage.getItem(keptBefore);
    localStorage.removeItem(keptBefore);
    return readBindings(JSON.parse(kept ?? '[]'));
  } catch {
    return none;
  }
}

const isSameInput = (a: Binding, b: Binding): boolean => a.gear === b.gear && a.input === b.input;

/** The show has a binding as it was made. */
const isKept = ({ id: _, ...known }: Binding, made: Binding): boolean =>
  Object.entries({ ...known, ...made }).every(
    ([key, value]) => known[key as keyof typeof known] === value && made[key as keyof typeof made] === value,
  );
