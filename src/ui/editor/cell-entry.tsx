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
      className="cell-entry"
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
        <Command.List className="cell-entry-list">
          {found.length === 0 && <p className="muted palette-item">Nothing matches these words.</p>}
          {found.map((offer) => (
            <Command.Item
              key={offer.id}
              value={offer.id}
              className="palette-item"
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
