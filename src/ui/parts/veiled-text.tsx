'use client';

import { createContext, useContext } from 'react';
import { partsOf } from '../../core/net';

/** Host names that are behind the veil too, beside what can be seen to be an address. */
export const VeiledNames = createContext<readonly string[]>([]);

/** A text whose addresses are behind the veil while it is drawn; the rest stays readable. */
export function VeiledText({ text }: { readonly text: string }) {
  const names = useContext(VeiledNames);
  const parts = partsOf(text, names);
  if (parts.length === 1 && parts[0]?.telling === false) return text;
  return parts.map((part, n) =>
    part.telling ? (
      <span key={n} data-veil>
        {part.text}
      </span>
    ) : (
      part.text
    ),
  );
}
