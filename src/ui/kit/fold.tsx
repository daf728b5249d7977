'use client';

import { ChevronDown } from 'lucide-react';
import { Collapsible } from 'radix-ui';
import type { ReactNode } from 'react';
import { localValue } from './local-value';

interface Props {
  /** What it is called; under this name this browser remembers whether it is folded. */
  readonly name: string;
  /** The heading, where it differs from the name. */
  readonly title?: string;
  /** Folded until somebody opens it. */
  readonly startsFolded?: boolean;
  /** Shown beside the heading, also while the part is folded. */
  readonly aside?: ReactNode;
  readonly children: ReactNode;
}

const places = new Map<string, ReturnType<typeof localValue>>();

function placeOf(name: string): ReturnType<typeof localValue> {
  let place = places.get(name);
  if (!place) places.set(name, (place = localValue(`fold ${name}`)));
  return place;
}

/** A part of a pane that folds away and stays so, for every record that the pane shows. */
export function Fold({ name, title = name, startsFolded = false, aside, children }: Props) {
  const place = placeOf(name);
  const isOpen = (place.use() ?? (startsFolded ? 'folded' : 'open')) !== 'folded';
  return (
    <Collapsible.Root asChild open={isOpen} onOpenChange={(open) => place.set(open ? 'open' : 'folded')}>
      <section className="grid gap-[9px] border-t border-rule pt-2.5" aria-label={name}>
        <div className="flex items-center justify-between gap-2">
          <h3>
            <Collapsible.Trigger className="group flex min-h-7 items-center gap-1.5 font-semibold">
              <ChevronDown
                aria-hidden
                size={16}
                className="-ml-0.5 text-ink-soft group-data-[state=closed]:-rotate-90"
              />
              {title}
            </Collapsible.Trigger>
          </h3>
          {aside}
        </div>
        <Collapsible.Content className="grid gap-[9px]">{children}</Collapsible.Content>
      </section>
    </Collapsible.Root>
  );
}
