'use client';

import type { RecordOf } from '../../core/show';
import { useDesk } from '../desk';
import { DateTimeField, TextField } from '../kit';

type ShowRecord = RecordOf<'show'>;

/** What the show is called, and when it begins: show time counts from there. */
export function NamePart({ show }: { readonly show: ShowRecord }) {
  const desk = useDesk();
  const { name, beginsAt } = show.data;
  const set = (title: string, data: ShowRecord['data']) =>
    void desk.edit({ title, changes: [{ op: 'update', from: show, to: { ...show, data } }] });
  return (
    <section aria-labelledby="name-title">
      <h2 id="name-title">Name and start</h2>
      <div className="form">
        <TextField
          label="Name"
          value={name}
          maxLength={80}
          onCommit={(text) => {
            const to = text.trim();
            if (to !== '') set('Name of the show', { ...show.data, name: to });
          }}
        />
        <DateTimeField
          label="Starts at, by this computer’s clock"
          value={beginsAt}
          onChange={(to) => {
            const { beginsAt: _, ...rest } = show.data;
            set('Start of the show', to === undefined ? rest : { ...rest, beginsAt: to });
          }}
        />
      </div>
      <p className="col-span-full text-[13px] text-ink-soft">
        A label can show it: {'{SHOW.showTime}'} counts from here, {'{SHOW.timeOfDay}'} is the time of day,{' '}
        {'{SHOW.devicesDown}'} how many devices are down.
      </p>
    </section>
  );
}
