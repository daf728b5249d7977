'use client';

import { Dialog } from 'radix-ui';
import { usePathname } from 'next/navigation';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';

import { Button } from '../kit';
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
    <Dialog.Root open={open} onOpenChange={(to) => wanted.setState({ open: to })}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-[rgb(0_0_0_/_55%)]" />
        <Dialog.Content
          className="fixed top-[20vh] left-1/2 z-41 grid max-h-[70vh] w-[min(520px,92vw)] -translate-x-1/2 gap-3.5 overflow-y-auto border border-rule-strong bg-ground px-6 py-5 [&_h2]:text-[20px] [&_h2]:font-[650]"
          aria-describedby={undefined}
        >
          <Dialog.Title>Shortcuts</Dialog.Title>
          {places.map((place) => (
            <ShortcutList key={place} place={place} />
          ))}
          <div className="col-span-full flex flex-wrap gap-2.5">
            <Dialog.Close asChild>
              <Button>Close</Button>
            </Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
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
