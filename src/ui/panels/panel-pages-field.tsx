'use client';

import type { PageRecord } from '../../core/show';
import { Button } from '../parts';

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
    <div className="panel-part">
      <p className="muted">
        {own.length === 0
          ? 'All pages, in the order of the show. Choose some to have only those.'
          : 'The panel begins with the first.'}
      </p>
      <ol className="panel-page-list">
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
      <div className="form-acts">
        {others.map(({ id, data }) => (
          <Button key={id} onClick={() => onChange([...own, id])}>
            + {data.name}
          </Button>
        ))}
      </div>
    </div>
  );
}
