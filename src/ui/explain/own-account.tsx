'use client';

import { useEffect, useState } from 'react';
import { Dialog } from 'radix-ui';
import type { Explanation } from '../../core/explain';
import { useLive } from '../live';

import { Button } from '../kit';
import { AccountLines } from './account-lines';

/** The account grows: commands end later, and lamps follow. */
const againMs = 500;
/** Without an answer for this long, nothing is expected any more. */
const answerWithinMs = 4000;

interface Props {
  readonly press: string;
  readonly title: string;
  readonly onClose: () => void;
}

/**
 * The account of a press of this screen, asked for over its own connection. The controls beside it can be pressed meanwhile, and a
 * strip of runs stays free: somebody may have to stop something.
 */
export default function OwnAccount({ press, title, onClose }: Props) {
  const live = useLive();
  const [state, setState] = useState<Explanation | 'asking' | 'gone' | 'unanswered'>('asking');
  useEffect(() => {
    const stop = live.onExplained(({ id, explanation }) => {
      if (id === press) setState(explanation ?? 'gone');
    });
    const ask = () => live.explain(press);
    ask();
    const again = setInterval(ask, againMs);
    const late = setTimeout(() => setState((now) => (now === 'asking' ? 'unanswered' : now)), answerWithinMs);
    return () => {
      stop();
      clearInterval(again);
      clearTimeout(late);
    };
  }, [live, press]);
  return (
    <Dialog.Root open modal={false} onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Dialog.Portal>
        <Dialog.Content
          className="fixed right-3 bottom-3 z-30 grid max-h-[70vh] w-[min(520px,calc(100vw-24px))] gap-3 overflow-y-auto border border-rule-strong bg-ground p-5 [body:has(.runs-line)_&]:bottom-16"
          aria-describedby={undefined}
          // A press beside it leaves it open.
          onInteractOutside={(event) => event.preventDefault()}
        >
          <Dialog.Title className="text-lg font-bold">{title}</Dialog.Title>
          {typeof state === 'string' ? (
            <p className="text-ink-soft">{words[state]}</p>
          ) : (
            <AccountLines explanation={state} />
          )}
          <Dialog.Close asChild>
            <Button className="min-h-11! justify-self-start">Close</Button>
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

const words = {
  asking: 'Fetching the account …',
  gone: 'The engine no longer has the account of this press. The as-run on the desk has its outcome.',
  unanswered: 'The engine does not answer. This screen asks again until it does.',
} as const;
