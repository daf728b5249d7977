'use client';

import { AlertDialog, Dialog as Radix } from 'radix-ui';
import type { ReactNode } from 'react';
import { Button } from './button';

const overlayClass = 'fixed inset-0 z-40 bg-black/55';
const frameClass = 'fixed z-41 gap-3.5 overflow-y-auto border border-rule-strong bg-ground px-6 py-5';
const sizes = {
  normal: 'top-[20vh] left-1/2 grid max-h-[70vh] w-[min(520px,92vw)] -translate-x-1/2',
  wide: 'top-[12vh] left-1/2 grid max-h-[80vh] w-[min(620px,calc(100vw-16px))] -translate-x-1/2',
  full: 'inset-x-[max(4vw,calc(50vw-520px))] inset-y-[6vh] flex flex-col',
} as const;
const titleClass = 'text-[20px] font-[650]';
/** Always in sight, however long the content is. */
const actsClass = 'sticky -bottom-5 z-1 -mx-6 -mb-5 flex flex-wrap gap-2.5 bg-ground px-6 py-4';

interface Props {
  readonly title: string;
  readonly size?: keyof typeof sizes;
  /** What opens it; left out where `open` is controlled. */
  readonly trigger?: ReactNode;
  readonly open?: boolean;
  readonly onOpenChange?: (open: boolean) => void;
  readonly description?: ReactNode;
  readonly children?: ReactNode;
  /** Beside Close. */
  readonly acts?: ReactNode;
  /** Something is typed in it: it is left by Cancel or Escape, and not by a click beside it. */
  readonly isForm?: boolean;
}

/** A dialog over the desk: focus stays in it, Escape and a click beside it close it. */
export const Dialog = ({
  title,
  size = 'normal',
  trigger,
  open,
  onOpenChange,
  description,
  children,
  acts,
  isForm = false,
}: Props) => (
  <Radix.Root {...(open === undefined ? {} : { open })} {...(onOpenChange === undefined ? {} : { onOpenChange })}>
    {trigger && <Radix.Trigger asChild>{trigger}</Radix.Trigger>}
    <Radix.Portal>
      <Radix.Overlay className={overlayClass} />
      <Radix.Content
        className={`${frameClass} ${sizes[size]}`}
        onInteractOutside={(event) => isForm && event.preventDefault()}
        {...(description === undefined ? { 'aria-describedby': undefined } : {})}
      >
        <Radix.Title className={titleClass}>{title}</Radix.Title>
        {description && <Radix.Description>{description}</Radix.Description>}
        {children}
        <div className={actsClass}>
          <Radix.Close asChild>
            <Button>{isForm ? 'Cancel' : 'Close'}</Button>
          </Radix.Close>
          {acts}
        </div>
      </Radix.Content>
    </Radix.Portal>
  </Radix.Root>
);

interface ConfirmProps {
  /** The question. */
  readonly title: string;
  /** What happens then. */
  readonly children: ReactNode;
  /** The verb and the noun: Remove device. */
  readonly act: string;
  readonly onAct: () => void;
  readonly cancel?: string;
  readonly trigger?: ReactNode;
  readonly open?: boolean;
  readonly onOpenChange?: (open: boolean) => void;
}

/** Asks before something that cannot be taken back. Cancel has the focus, so that Enter alone does nothing. */
export const Confirm = ({
  title,
  children,
  act,
  onAct,
  cancel = 'Cancel',
  trigger,
  open,
  onOpenChange,
}: ConfirmProps) => (
  <AlertDialog.Root {...(open === undefined ? {} : { open })} {...(onOpenChange === undefined ? {} : { onOpenChange })}>
    {trigger && <AlertDialog.Trigger asChild>{trigger}</AlertDialog.Trigger>}
    <AlertDialog.Portal>
      <AlertDialog.Overlay className={overlayClass} />
      <AlertDialog.Content className={`${frameClass} ${sizes.normal}`}>
        <AlertDialog.Title className={titleClass}>{title}</AlertDialog.Title>
        <AlertDialog.Description>{children}</AlertDialog.Description>
        <div className={actsClass}>
          <AlertDialog.Cancel asChild>
            <Button>{cancel}</Button>
          </AlertDialog.Cancel>
          <AlertDialog.Action asChild>
            <Button kind="strong" onClick={onAct}>
              {act}
            </Button>
          </AlertDialog.Action>
        </div>
      </AlertDialog.Content>
    </AlertDialog.Portal>
  </AlertDialog.Root>
);
