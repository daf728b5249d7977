'use client';

import { X } from 'lucide-react';
import type { Helper } from '../../core/show';
import { Button, Field, IconButton, NumberField } from '../kit';

interface Props {
  readonly helpers: readonly Helper[];
  readonly onChange: (helpers: readonly Helper[]) => void;
}

/** The most helper programs of one device. */
const mostHelpers = 10;

/** Programs that must run on the device’s computer: each has a light in the rig. */
export function HelperFields({ helpers, onChange }: Props) {
  const put = (at: number, change: Partial<Helper>) =>
    onChange(helpers.map((each, n) => (n === at ? { ...each, ...change } : each)));
  return (
    <fieldset className="col-span-full grid gap-2">
      <legend className="text-[14px] text-ink-soft">Helper programs on the device’s computer</legend>
      {helpers.map(({ title, port }, n) => (
        <div key={n} className="grid grid-cols-[minmax(0,1fr)_120px_auto] items-end gap-2.5">
          <Field label="Program">
            {(ids) => (
              <input {...ids} value={title} maxLength={40} onChange={(e) => put(n, { title: e.target.value })} />
            )}
          </Field>
          <NumberField label="TCP port" min={1} max={65_535} value={port} onCommit={(next) => put(n, { port: next })} />
          <IconButton
            label={`Remove ${title || 'helper program'}`}
            onClick={() => onChange(helpers.filter((_, at) => at !== n))}
          >
            <X aria-hidden size={18} />
          </IconButton>
        </div>
      ))}
      <div className="flex flex-wrap items-center gap-3 text-[13px] text-ink-soft">
        <Button
          disabled={helpers.length >= mostHelpers}
          onClick={() => onChange([...helpers, { title: `Program ${helpers.length + 1}`, port: 8080 }])}
        >
          Add helper program
        </Button>
        {helpers.length === 0 &&
          'A program without which the device does not work. Its TCP port is looked at every 10 s.'}
      </div>
    </fieldset>
  );
}
