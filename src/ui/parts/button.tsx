import type { ButtonHTMLAttributes } from 'react';

type Kind = 'plain' | 'strong' | 'ghost';

/** A button of the desk. */
export function Button({
  kind = 'plain',
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { readonly kind?: Kind }) {
  return <button type="button" {...rest} className={`btn btn-${kind} ${className}`} />;
}
