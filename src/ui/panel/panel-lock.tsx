'use client';

import { LockKeyhole } from 'lucide-react';
import { useHand } from '../page';

/** Over the whole panel while it is cleaned or carried: it shows everything, and no touch does anything until this button is held. */
export default function PanelLock({ onUnlock }: { readonly onUnlock: () => void }) {
  const { filling, handlers } = useHand({ disabled: false, guarded: true, onPress: onUnlock });
  return (
    <section className="fixed inset-0 z-30 touch-none" aria-label="Locked">
      <button
        type="button"
        autoFocus
        className="fixed bottom-6 left-1/2 flex min-h-14 -translate-x-1/2 items-center gap-3 border-2 border-rule-strong bg-ground px-6 text-[18px] font-semibold whitespace-nowrap text-ink"
        {...handlers}
      >
        <i
          aria-hidden
          className={`absolute inset-x-0 bottom-0 h-1.5 origin-left bg-accent transition-transform ease-linear ${filling ? 'scale-x-100 duration-800' : 'scale-x-0 duration-0'}`}
        />
        <LockKeyhole size={20} aria-hidden /> Locked: hold to unlock
      </button>
    </section>
  );
}
