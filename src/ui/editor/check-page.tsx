'use client';

import { X } from 'lucide-react';
import { useMemo, useState, type ReactNode } from 'react';
import { standings, type Standing } from '../../core/line-check';
import { Button, SplitPanes } from '../kit';
import { LivePage } from '../page';
import { Proofs, StandingMark, standingText, useLineCheck } from '../proofs';

interface Props {
  readonly page: string;
  readonly none: ReactNode;
}

/** A page with the result of the line check on each control. Choosing one shows its proofs, and checks it; nothing is pressed here. */
export function CheckPage({ page, none }: Props) {
  const { view, run, isAsking } = useLineCheck();
  const [chosen, setChosen] = useState<string>();
  const worst = useMemo(() => {
    const found = new Map<string, Standing>();
    for (const { kind, controls, standing } of Object.values(view?.items ?? {})) {
      // Whether hand gear is plugged in says nothing about the controls that it works.
      if (kind === 'gear') continue;
      for (const id of controls) {
        const known = found.get(id);
        if (known === undefined || standings.indexOf(standing) < standings.indexOf(known)) found.set(id, standing);
      }
    }
    return found;
  }, [view?.items]);
  return (
    <>
      <p className="flex flex-wrap items-center gap-x-3.5 gap-y-2 pb-2 text-ink-soft">
        {view?.plan.state === 'making' ? 'Planning the line check …' : 'Choose a control to see and check its proofs.'}
        <Button disabled={isAsking || view?.run !== null} onClick={() => void run({ pages: [page], only: 'all' })}>
          {view?.run?.state === 'running' ? `Checking: ${view.run.done} of ${view.run.total}` : 'Check this page'}
        </Button>
      </p>
      <SplitPanes
        name="check-page"
        sideSize="30%"
        main={
          <LivePage
            key={page}
            page={page}
            none={none}
            over={(id, name) => {
              const standing = worst.get(id);
              return (
                <button
                  type="button"
                  className="absolute inset-0 z-1 hover:outline-2 hover:-outline-offset-2 hover:outline-accent data-chosen:outline-2 data-chosen:-outline-offset-2 data-chosen:outline-accent"
                  data-chosen={id === chosen || undefined}
                  aria-label={`Proofs of ${name}${standing ? `: ${standingText(standing)}` : ''}`}
                  aria-pressed={id === chosen}
                  onClick={() => setChosen(id === chosen ? undefined : id)}
                >
                  {standing && <StandingMark standing={standing} />}
                </button>
              );
            }}
          />
        }
        side={
          chosen && (
            <aside
              className="grid h-full content-start gap-3 overflow-y-auto px-4 py-1"
              aria-label="Proofs of the control"
            >
              <header className="flex items-center justify-between gap-3">
                <h2 className="text-[17px] font-semibold">Proofs</h2>
                <Button kind="ghost" aria-label="Close the proofs" onClick={() => setChosen(undefined)}>
                  <X size={18} aria-hidden />
                </Button>
              </header>
              <Proofs control={chosen} />
            </aside>
          )
        }
      />
    </>
  );
}
