'use client';

import { usePathname } from 'next/navigation';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';

import { Dialog } from '../kit';
import { keysText, placeNames, placesAt, shortcuts, type ShortcutPlace } from './shortcuts';

const wanted = createStore<{ readonly open: boolean }>(() => ({ open: false }));

/** Opens the list of shortcuts. */
export const askForShortcuts = (): void => wanted.setState({ open: true });

/** The shortcuts that work on this screen. */
export function ShortcutHelp() {
  const path = usePathname();
  const { open } = useStore(wanted);
  // The mode of the page is what can be seen of it.
  const places = open ? placesAt(path, document.querySelector('.edit-grid') !== null) : [];
  return (
    <Dialog title="Shortcuts" open={open} onOpenChange={(to) => wanted.setState({ open: to })}>
      {places.map((place) => (
        <ShortcutList key={place} place={place} />
      ))}
    </Dialog>
  );
}

const ShortcutList = ({ place }: { readonly place: ShortcutPlace }) => (
  <section aria-label={placeNames[place]}>
    <h3 className="text-ink-soft">{placeNames[place]}</h3>
    <dl>
      {Object.values(shortcuts[place]).map(({ shown, title }) => (
        <div key={title} className="grid grid-cols-[150px_1fr] items-baseline gap-3 border-b border-rule py-1.5">
          <dt>
            <kbd>{keysText(shown)}</kbd>
          </dt>
          <dd>{title}</dd>
        </div>
      ))}
    </dl>
  </section>
);
