'use client';

import { CircleX, TriangleAlert, X } from 'lucide-react';
import type { ReactNode } from 'react';
import { toast, Toaster } from 'sonner';

/** How long a notice that only says that something was done is shown. */
const doneMs = 4000;
/** How long one is shown that asks for a look. */
const lookMs = 20_000;

/** Where notices appear: over the work, in the corner that holds the least. One lies on every screen of the desk. */
export const Notices = () => (
  <Toaster
    position="bottom-left"
    visibleToasts={4}
    expand
    gap={8}
    offset={16}
    containerAriaLabel="Notices"
    style={{ fontFamily: 'inherit' }}
  />
);

/** Says that something was done; a later one about the same takes its place. */
export const tellDone = (text: ReactNode, about: string): void => {
  toast.custom(() => <Notice>{text}</Notice>, { id: about, duration: doneMs });
};

/** Says that something was refused. It stays until somebody dismisses it or it is mended: a later success of something else leaves it alone. */
export const tellRefused = (text: ReactNode, about: string): void => {
  toast.custom((id) => <Notice onDismiss={() => toast.dismiss(id)}>{text}</Notice>, { id: about, duration: Infinity });
};

/** Says that something needs a look, for a while; where to look says it for as long as it lasts. */
export const tellNotice = (text: ReactNode, about: string): void => {
  toast.custom(
    (id) => (
      <Notice isCalm onDismiss={() => toast.dismiss(id)}>
        {text}
      </Notice>
    ),
    { id: about, duration: lookMs },
  );
};

/** What was refused has been done since. */
export const tellMended = (about: string): void => void toast.dismiss(about);

interface NoticeProps {
  readonly children: ReactNode;
  /** A refusal has a button that dismisses it. */
  readonly onDismiss?: () => void;
  /** Nothing was refused: it is only to be known. */
  readonly isCalm?: boolean;
}

const Notice = ({ children, onDismiss, isCalm = false }: NoticeProps) =>
  onDismiss ? (
    <div
      role="alert"
      className={`flex w-[min(420px,calc(100vw-32px))] items-start gap-3 p-3 text-[15px] ${isCalm ? 'bg-warning text-warning-ink' : 'bg-fault text-ground'}`}
    >
      {isCalm ? (
        <TriangleAlert aria-hidden className="mt-0.5 size-4 shrink-0" />
      ) : (
        <CircleX aria-hidden className="mt-0.5 size-4 shrink-0" />
      )}
      <span className="min-w-0 flex-1 font-semibold break-words">{children}</span>
      <button
        type="button"
        aria-label="Dismiss"
        onClick={onDismiss}
        className="-m-2 grid size-9 shrink-0 place-items-center hover:bg-ground hover:text-ink"
      >
        <X aria-hidden className="size-4" />
      </button>
    </div>
  ) : (
    <div
      role="status"
      className="w-fit max-w-[min(420px,calc(100vw-32px))] border border-rule-strong bg-raised p-3 text-[15px] break-words text-ink"
    >
      {children}
    </div>
  );
