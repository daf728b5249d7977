'use client';

import { formatLabel } from '../../core/face';
import { controlsOf, type PageRecord, type ShowRecord } from '../../core/show';

interface Props {
  readonly pages: readonly PageRecord[];
  readonly records: readonly ShowRecord[];
  readonly hidden: readonly string[];
  readonly onChange: (to: readonly string[]) => void;
}

/** Which controls a panel does not show and may not press. */
export function HiddenControls({ pages, records, hidden, onChange }: Props) {
  const tagOf = (id: string) => {
    const device = records.find((record) => record.id === id);
    return device?.kind === 'device' ? device.data.tag : 'SHOW';
  };
  return (
    <div className="grid grid-cols-[repeat(auto-fill,minmax(220px,1fr))] gap-x-6 gap-y-3.5 px-0 pt-3 pb-1.5 [&_label]:flex [&_label]:gap-2 [&_label]:px-0 [&_label]:py-0.75 [&_legend]:font-bold">
      {pages.map((page) => (
        <fieldset key={page.id}>
          <legend>{page.data.name}</legend>
          {controlsOf(records, page.id).map(({ id, data }) => (
            <label key={id}>
              <input
                type="checkbox"
                checked={!hidden.includes(id)}
                onChange={(event) =>
                  onChange(event.target.checked ? hidden.filter((each) => each !== id) : [...hidden, id])
                }
              />
              {formatLabel(data.label, tagOf) || data.type}
            </label>
          ))}
        </fieldset>
      ))}
    </div>
  );
}
