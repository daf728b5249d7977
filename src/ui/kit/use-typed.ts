'use client';

import { useState } from 'react';

/**
 * What is typed in a field until it is committed, over what is stored. What somebody else stores meanwhile shows at once,
 * unless something is being typed here: then both are known, and the person who types chooses between them.
 */
export function useTyped(stored: string): {
  readonly typed: string;
  readonly dirty: boolean;
  /** What somebody else has stored while this was typed. */
  readonly theirs: string | undefined;
  readonly set: (text: string) => void;
  readonly done: () => void;
} {
  const [own, setOwn] = useState<{ readonly text: string; readonly from: string }>();
  const dirty = own !== undefined && own.text !== stored;
  return {
    typed: own?.text ?? stored,
    dirty,
    theirs: dirty && own.from !== stored ? stored : undefined,
    set: (text) => setOwn((before) => ({ text, from: before?.from ?? stored })),
    done: () => setOwn(undefined),
  };
}
