'use client';

import { pagesOf, type ControlRecord } from '../../core/show';
import { useFacts } from './facts';
import { useVerbs } from './verbs';
import { Select } from '../kit';

type Sets = ControlRecord['data']['sets'];

/** What a control chooses on the screen on which it is pressed, besides what it sends: a level, what a zone drives, or a page. */
export function SetsField({ control, name }: { readonly control: ControlRecord; readonly name: string }) {
  const verbs = useVerbs();
  const { page, devices, show } = useFacts();
  const { shifts = [], zones } = page.data;
  const ways: readonly { readonly title: string; readonly sets: NonNullable<Sets> }[] = [
    ...shifts.flatMap(({ id, name: level }) => [
      { title: `level ${level}, while held`, sets: { shift: id, while: 'held' as const } },
      { title: `level ${level}, until another`, sets: { shift: id, while: 'chosen' as const } },
    ]),
    ...zones.flatMap(({ id, title, pick }) =>
      (pick?.devices ?? []).map((device) => ({
        title: `${devices.find((each) => each.id === device)?.data.tag ?? '?'} in ${title}`,
        sets: { zone: id, device },
      })),
    ),
    { title: 'the next page', sets: { go: 'next' as const } },
    { title: 'the page before', sets: { go: 'back' as const } },
    { title: 'the first page', sets: { go: 'first' as const } },
    ...pagesOf(show.records)
      .filter(({ id }) => id !== page.id)
      .map(({ id, data }) => ({ title: `page ${data.name}`, sets: { page: id } })),
  ];
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
      label="Also switch the screen to"
      value={now === -1 ? '' : String(now)}
      options={[
        { value: '', title: control.data.sets && now === -1 ? 'something that no longer exists' : 'nothing' },
        ...ways.map(({ title }, n) => ({ value: String(n), title })),
      ]}
      onChoose={set}
    />
  );
}
