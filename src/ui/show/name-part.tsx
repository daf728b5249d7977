'use client';

import type { RecordOf } from '../../core/show';
import { useDesk } from '../desk';

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
        <label>
          Name
          <input
            key={name}
            defaultValue={name}
            maxLength={80}
            onBlur={(event) => {
              const to = event.target.value.trim();
              if (to !== '' && to !== name) set('Name of the show', { ...show.data, name: to });
            }}
          />
        </label>
        <label>
          Starts at, by this computer’s clock
          <input
            key={beginsAt ?? ''}
            type="datetime-local"
            defaultValue={beginsAt ?? ''}
            onBlur={(event) => {
              const to = event.target.value.slice(0, 16);
              if (to === (beginsAt ?? '')) return;
              const { beginsAt: _, ...rest } = show.data;
              set('Start of the show', to === '' ? rest : { ...rest, beginsAt: to });
            }}
          />
        </label>
      </div>
      <p className="col-span-full text-[13px] text-ink-soft">
        A label can show it: {'{SHOW.showTime}'} counts from here, {'{SHOW.timeOfDay}'} is the time of day,{' '}
        {'{SHOW.devicesDown}'} how many devices are down.
      </p>
    </section>
  );
}
