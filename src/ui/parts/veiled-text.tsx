'use client';

import { createContext, useContext } from 'react';
import type { TextPart } from '../../core/net';

/** Finds what the veil covers in a text. The desk gives it; a panel has no veil and does not load what finds addresses. */
export const VeilOver = createContext<(text: string) => readonly TextPart[]>((text) => [{ text, telling: false }]);

/** A text whose addresses are behind the veil while it is drawn; the rest stays readable. */
export function VeiledText({ text }: { readonly text: string }) {
  return useContext(VeilOver)(text).map((part, n) =>
    part.telling ? (
      <span key={n} data-veil>
        {part.text}
      </span>
    ) : (
      part.text
    ),
  );
}
