'use client';

import { settableOn } from '../../core/page';
import { pagesOf, type ControlRecord } from '../../core/show';
import { useFacts } from './facts';
import { useVerbs } from './verbs';
import { Select } from '../kit';

/** What a control chooses on the screen on which it is pressed, besides what it sends: a level, what a zone drives, or a page. */
export function SetsField({ control, name }: { readonly control: ControlRecord; readonly name: string }) {
  const verbs = useVerbs();
  const { page, devices, show } = useFacts();
  const ways = settableOn(page, pagesOf(show.records), (device) => devices.find(({ id }) => id === device)?.data.tag);
  const now = ways.findIndex(({ sets }) => JSON.stringify(sets) === JSON.stringify(control.data.sets));
  const set = (text: string) =>
    verbs.change(
      control,
      ({ sets: _, ...data }) => {
        const way = ways[Number(text)];
        return text === '' || !way ? data : { ...data, sets: way.sets };
      },
      `What ${name} chooses`,
    );
  return (
    <Select
      label="Also on this screen"
      value={now === -1 ? '' : String(now)}
      options={[
        { value: '', title: control.data.sets && now === -1 ? 'something that no longer exists' : 'nothing' },
        ...ways.map(({ title }, n) => ({ value: String(n), title })),
      ]}
      onChoose={set}
    />
  );
}
