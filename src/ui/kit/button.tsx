import { cva, type VariantProps } from 'class-variance-authority';
import type { ButtonHTMLAttributes, ReactNode } from 'react';
import { twMerge } from 'tailwind-merge';
import { Tooltip } from './tooltip';

const looks = cva(
  'inline-flex min-h-9 items-center justify-center gap-2 border px-3.5 whitespace-nowrap not-aria-pressed:not-disabled:hover:bg-tape disabled:cursor-not-allowed disabled:border-rule disabled:text-ink-soft aria-busy:cursor-progress aria-pressed:border-accent aria-pressed:bg-accent aria-pressed:text-accent-ink',
  {
    variants: {
      kind: {
        plain: 'border-rule-strong',
        strong:
          'border-ink bg-ink font-semibold text-ground not-aria-pressed:not-disabled:hover:bg-ink-soft disabled:bg-tape disabled:text-ink-soft',
        /** Sends to real devices from a place where that is not expected. */
        live: 'border-warning bg-warning font-semibold text-warning-ink not-aria-pressed:not-disabled:hover:bg-warning',
        ghost: 'border-transparent px-2.5',
      },
    },
    defaultVariants: { kind: 'plain' },
  },
);

type Look = VariantProps<typeof looks>;
type Props = ButtonHTMLAttributes<HTMLButtonElement> & Look;

/** How a button looks; also for links that are pressed like one. */
export const buttonClass = ({ className, ...look }: Look & { readonly className?: string | undefined } = {}) =>
  twMerge(looks(look), className);

/** A button of the desk. */
export const Button = ({ kind, className, ...rest }: Props) => (
  <button type="button" data-slot="button" {...rest} className={buttonClass({ kind, className })} />
);

/** A button that shows an icon only: its label is read out, and shown while it is pointed at. */
export const IconButton = ({
  label,
  kind = 'ghost',
  className,
  ...rest
}: Omit<Props, 'aria-label' | 'title'> & { readonly label: string; readonly children: ReactNode }) => (
  <Tooltip text={label}>
    <Button {...rest} kind={kind} aria-label={label} className={twMerge('min-w-9 justify-center px-2', className)} />
  </Tooltip>
);
