'use client';

import { copyZoneEdit, putZoneEdit, removeZoneEdit } from '../../core/page';
import { devicesOf, type ControlRecord, type Zone } from '../../core/show';
import { newId } from '../parts';
import { Button, CommitInput } from '../kit';
import { useEditorStore } from './editor-store';
import { useFacts } from './facts';
import { AreaFields } from './place-fields';
import { PickFields } from './pick-fields';
import { Retarget } from './retarget';
import { saveZone } from './save-file';
import { useVerbs } from './verbs';

/** One zone: its title and area, and a copy of it for another device. */
export function ZonePane({ zone, controls }: { readonly zone: Zone; readonly controls: readonly ControlRecord[] }) {
  const verbs = useVerbs();
  const store = useEditorStore();
  const facts = useFacts();
  const { show, page, tagOf } = facts;
  const put = (to: Zone) => {
    const made = putZoneEdit(page, to);
    if (made.ok) void verbs.edit(made.value);
    else verbs.say(made.error, true);
  };
  const copy = (swap: { readonly from: string; readonly to: string } | undefined, title: string) => {
    const made = copyZoneEdit(show.records, page, zone, swap, title, newId, facts);
    if (!made.ok) return verbs.say(made.error, true);
    store.setState({ zone: made.value.zone.id });
    void verbs.edit(made.value.edit);
  };
  return (
    <div className="form">
      <h2>Zone</h2>
      <label>
        Title
        <CommitInput
          autoFocus={zone.title === 'New zone'}
          value={zone.title}
          maxLength={60}
          onFocus={(event) => event.target.select()}
          onCommit={(title) => put({ ...zone, title })}
        />
      </label>
      <AreaFields area={zone} onArea={(area) => put({ ...zone, ...area })} />
      <PickFields zone={zone} controls={controls} onPut={put} />
      <Retarget
        from={[...new Set(controls.flatMap(({ data }) => devicesOf(data)))]}
        act="Copy the zone for it"
        onRetarget={(from, to) => {
          const tag = tagOf(from) ?? '';
          const title = tag !== '' && zone.title.includes(tag) ? zone.title.replace(tag, to.data.tag) : to.data.name;
          copy({ from, to: to.id }, title.slice(0, 60));
        }}
      />
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button onClick={() => verbs.choose(controls.map(({ id }) => id))}>Choose its {controls.length}</Button>
        <Button onClick={() => copy(undefined, `${zone.title} copy`.slice(0, 60))}>Duplicate</Button>
        <Button onClick={() => void saveZone(show.records, page, zone)}>Save as a file</Button>
        <Button
          onClick={() => {
            store.setState({ zone: undefined, tab: 'page' });
            void verbs.edit(removeZoneEdit(page, zone));
          }}
        >
          Remove the frame
        </Button>
      </div>
    </div>
  );
}
