import { cva, type VariantProps } from 'class-variance-authority';
import type { ButtonHTMLAttributes } from 'react';

const looks = cva(
  'inline-flex min-h-9 items-center justify-center gap-2 border whitespace-nowrap disabled:cursor-not-allowed disabled:border-rule disabled:text-ink-soft aria-busy:cursor-progress aria-pressed:border-accent aria-pressed:bg-accent aria-pressed:text-accent-ink',
  {
    variants: {
      // One row says all that differs, so that no two classes of a button contend: panels have no room for a package that settles it.
      kind: {
        plain: 'border-rule-strong px-3.5 not-aria-pressed:not-disabled:hover:bg-tape',
        strong:
          'border-ink bg-ink px-3.5 font-semibold text-ground not-aria-pressed:not-disabled:hover:bg-ink-soft disabled:bg-tape',
        /** Sends to real devices from a place where that is not expected. */
        live: 'border-warning bg-warning px-3.5 font-semibold text-warning-ink',
        ghost: 'border-transparent px-2.5 not-aria-pressed:not-disabled:hover:bg-tape',
        icon: 'min-w-9 border-transparent px-2 not-aria-pressed:not-disabled:hover:bg-tape',
      },
    },
    defaultVariants: { kind: 'plain' },
  },
);

type Look = VariantProps<typeof looks>;
export type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> & Look;

/** How a button looks; also for links that are pressed like one. What is added may place it, not repaint it. */
export const buttonClass = ({ className = '', ...look }: Look & { readonly className?: string | undefined } = {}) =>
  looks({ ...look, className });

/** A button of the desk. */
export const Button = ({ kind, className, ...rest }: ButtonProps) => (
  <button type="button" data-slot="button" {...rest} className={buttonClass({ kind, className })} />
);
