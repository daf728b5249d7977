'use client';

import { Command } from 'cmdk';
import { useState } from 'react';
import { searchOffers, type Cell } from '../../core/page';
import { placeStyle } from '../page';
import { useEditorStore } from './editor-store';
import { OfferTitle } from './offer-title';
import { useOffers } from './use-offers';
import { useVerbs } from './verbs';

const most = 40;

/** Typing in a cell: what the rig offers is searched for the words, and what is picked is put there. */
export function CellEntry({ cell, typed: first }: { readonly cell: Cell; readonly typed: string }) {
  const store = useEditorStore();
  const verbs = useVerbs();
  const offers = useOffers();
  const [typed, setTyped] = useState(first);
  const found = searchOffers(offers, typed).slice(0, most);
  const leave = () => store.setState(({ focusing }) => ({ entry: undefined, focusing: focusing + 1 }));
  return (
    <div
      className="relative z-6 min-h-16 [&_input]:min-h-16 [&_input]:w-full [&_input]:border-2 [&_input]:border-accent"
      data-entry
      style={placeStyle({ ...cell, cols: 1, rows: 1 })}
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) store.setState({ entry: undefined });
      }}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Escape') leave();
      }}
    >
      <Command label="What goes in this cell" shouldFilter={false} loop>
        <Command.Input autoFocus value={typed} onValueChange={setTyped} placeholder="SW1 cut …" />
        <Command.List className="absolute top-full left-0 max-h-75 w-[max(100%,320px)] overflow-auto border border-rule-strong bg-raised">
          {found.length === 0 && (
            <p className="flex justify-between px-4 py-2.5 text-ink-soft data-[selected=true]:bg-accent data-[selected=true]:text-accent-ink">
              Nothing matches these words.
            </p>
          )}
          {found.map((offer) => (
            <Command.Item
              key={offer.id}
              value={offer.id}
              className="flex justify-start gap-2.5 px-4 py-2.5 data-[selected=true]:bg-accent data-[selected=true]:text-accent-ink"
              onSelect={() => void verbs.put(offer, cell)}
            >
              <OfferTitle offer={offer} withDevice />
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </div>
  );
}
