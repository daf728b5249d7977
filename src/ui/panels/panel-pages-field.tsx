'use client';

import { Button } from '../kit';
import type { PageRecord } from '../../core/show';

interface Props {
  readonly pages: readonly PageRecord[];
  readonly own: readonly string[];
  readonly onChange: (to: readonly string[]) => void;
}

/** Which pages a panel has, the first one first; none chosen means all. */
export function PanelPagesField({ pages, own, onChange }: Props) {
  const chosen = own.flatMap((id) => pages.find((page) => page.id === id) ?? []);
  const others = pages.filter(({ id }) => !own.includes(id));
  const first = (id: string) => onChange([id, ...own.filter((each) => each !== id)]);
  return (
    <div className="pt-3 pb-1.5">
      <p className="text-ink-soft">
        {own.length === 0
          ? 'All pages, in the order of the show. Choose some to have only those.'
          : 'The panel begins with the first.'}
      </p>
      <ol className="my-2 flex flex-wrap gap-x-5 gap-y-1 [&_li]:flex [&_li]:items-center [&_li]:gap-1">
        {chosen.map(({ id, data }, n) => (
          <li key={id}>
            <b>{data.name}</b>
            {n > 0 && (
              <Button kind="ghost" onClick={() => first(id)}>
                Make it first
              </Button>
            )}
            <Button kind="ghost" onClick={() => onChange(own.filter((each) => each !== id))}>
              Remove
            </Button>
          </li>
        ))}
      </ol>
      <div className="col-span-full flex flex-wrap gap-2.5">
        {others.map(({ id, data }) => (
          <Button key={id} onClick={() => onChange([...own, id])}>
            + {data.name}
          </Button>
        ))}
      </div>
    </div>
  );
}
