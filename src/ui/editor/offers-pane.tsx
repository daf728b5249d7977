'use client';

import { useDraggable } from '@dnd-kit/core';
import { useState, type RefObject } from 'react';
import { groupOffers, isFree, searchOffers, type Offer } from '../../core/page';
import { dragListeners, Segmented } from '../kit';
import { TakeHere } from '../snapshots';
import { useEditor, useEditorStore } from './editor-store';
import { useFacts } from './facts';
import { OfferTitle } from './offer-title';
import { useOffers } from './use-offers';
import type { Placeable } from './use-place-drag';
import { useVerbs } from './verbs';

/** How many offers of a group are shown before it is opened: at first, and of what a search has found. */
const shownAtFirst = 6;
const shownFound = 30;

/** Everything that the page and the rig offer, by purpose or by device: dragged onto a cell, put on the one that is chosen, or in place of the chosen control. */
export function OffersPane({ search }: { readonly search?: RefObject<HTMLInputElement | null> }) {
  const store = useEditorStore();
  const verbs = useVerbs();
  const { controls, show } = useFacts();
  const offers = useOffers();
  const [typed, setTyped] = useState('');
  const [by, setBy] = useState<'device' | 'purpose'>('device');
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const cursor = useEditor((state) => state.cursor);
  const carried = useEditor((state) => state.carried);
  const replaces = useEditor((state) => state.ids.size === 1);
  const free = isFree({ ...cursor, cols: 1, rows: 1 }, controls);
  const found = searchOffers(offers, typed);
  const groups = groupOffers(found, by);

  const take = (offer: Offer) => {
    const { ids } = store.getState();
    const chosen = ids.size === 1 ? controls.find(({ id }) => ids.has(id)) : undefined;
    if (chosen) verbs.replace(chosen, offer);
    else if (free && ids.size === 0) void verbs.put(offer, cursor);
    else store.setState({ carried: offer });
  };

  return (
    <div className="form">
      <h2 className="sr-only">What the page and the rig offer</h2>
      <label>
        Search
        <input
          ref={search}
          type="search"
          value={typed}
          placeholder="SW1 program, preset, horn …"
          onChange={(event) => setTyped(event.target.value)}
        />
      </label>
      <div className="offer-by">
        <Segmented
          label="Gathered by"
          value={by}
          options={[
            { value: 'device', title: 'By device' },
            { value: 'purpose', title: 'By purpose' },
          ]}
          onChoose={setBy}
        />
      </div>
      <p className="col-span-full text-[13px] text-ink-soft">
        {carried
          ? `“${carried.title}” is picked up: choose an empty cell for it.`
          : replaces
            ? 'A click replaces the chosen control; drag onto an empty cell to add one.'
            : free
              ? `Drag onto a cell, or click to put it in column ${cursor.col + 1}, row ${cursor.row + 1}.`
              : 'Drag onto a cell, or click here and then on a cell.'}
      </p>
      <TakeHere show={show} onTaken={setTyped} />
      {offers.every(({ device }) => !device) && <p>The rig has no devices yet. Add one to have its commands here.</p>}
      {found.length === 0 && <p>Nothing matches these words.</p>}
      {groups.map((group) => {
        const most = opened.has(group.key) ? Infinity : typed === '' ? shownAtFirst : shownFound;
        const shown = group.offers.slice(0, most);
        return (
          <section key={group.key} aria-label={group.title}>
            <h3 className="mt-3 mb-1 text-ink-soft">{group.title}</h3>
            <ul className="offers mb-1">
              {shown.map((offer) => (
                <li key={offer.id}>
                  <OfferRow
                    offer={offer}
                    isCarried={carried?.id === offer.id}
                    withDevice={by === 'purpose'}
                    onTake={take}
                  />
                </li>
              ))}
            </ul>
            {group.offers.length > shown.length && (
              <button
                type="button"
                className="min-h-8 text-ink-soft underline"
                onClick={() => setOpened(new Set(opened).add(group.key))}
              >
                {group.offers.length - shown.length} more of {group.title}
              </button>
            )}
          </section>
        );
      })}
    </div>
  );
}

interface RowProps {
  readonly offer: Offer;
  readonly isCarried: boolean;
  readonly withDevice: boolean;
  readonly onTake: (offer: Offer) => void;
}

function OfferRow({ offer, isCarried, withDevice, onTake }: RowProps) {
  const data: Placeable = { is: 'offer', offer };
  const { setNodeRef, listeners } = useDraggable({ id: `offer ${offer.id}`, data });
  return (
    <button
      ref={setNodeRef}
      type="button"
      className="flex min-h-8.5 w-full cursor-grab items-baseline gap-2 border-b border-rule px-1.5 py-1 text-left hover:bg-tape aria-pressed:bg-tape [&_b]:font-semibold"
      title={offer.help}
      aria-pressed={isCarried || undefined}
      onClick={() => onTake(offer)}
      {...dragListeners(listeners)}
    >
      <OfferTitle offer={offer} withDevice={withDevice} />
    </button>
  );
}
