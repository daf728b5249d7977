'use client';

import type { ReactNode } from 'react';
import { AccountLines } from './account-lines';
import { useExplanation } from './use-explanation';

interface Props {
  readonly press: string;
  /** What is shown where the engine no longer has the account. */
  readonly otherwise?: ReactNode;
}

/** One press from the finger to the lamp, fetched from the engine as its account grows. */
export function PressAccount({ press, otherwise }: Props) {
  const { explanation, failed } = useExplanation(press);
  if (failed)
    return <p className="text-ink-soft">The engine did not answer. Its account is fetched again in a moment.</p>;
  if (explanation === undefined) return <p className="text-ink-soft">Fetching the account …</p>;
  if (explanation === null)
    return (
      <>
        <p className="pb-2 text-ink-soft">
          The engine keeps the moments of the last 2,000 presses since its start. This one is older; the record has its
          outcome.
        </p>
        {otherwise}
      </>
    );
  return <AccountLines explanation={explanation} />;
}
