'use client';

import { useState } from 'react';
import type { ListItem } from '../../core/face';
import type { ControlView } from '../../core/live';
import { useLive } from '../live';
import { Face, textOf } from './face';
import type { LiveControlProps } from './live-control';
import { ListItemFace } from './list-item-face';
import { OutcomeMark } from './outcome-mark';
import { listActsClass, listClass, listRowClass } from './list-look';
import { useHand } from './use-hand';

type Act = NonNullable<ControlView['list']>['acts'][number];

/** What a device lists, item by item, the current and the next one marked, with what can be done with the one that is chosen. */
export default function ListControl({ id, page, context, face, view, mark, disabled }: LiveControlProps) {
  const live = useLive();
  const [chosen, setChosen] = useState<number>();
  const [asking, setAsking] = useState<{ readonly act: number; readonly guard: boolean }>();
  const items = face.items ?? [];
  const { form = 'small', acts = [] } = view.list ?? {};
  const item = items.find(({ index }) => index === chosen);
  const run = (act: number, guard: boolean, given?: string) => {
    const { item: about = false, ask } = acts[act] ?? {};
    if (ask !== undefined && given === undefined) return setAsking({ act, guard });
    setAsking(undefined);
    live.choose(page, id, {
      act,
      ...(about ? { index: chosen } : {}),
      ...(given === undefined ? {} : { given }),
      ...(guard ? { guard } : {}),
      ...(context === undefined ? {} : { context }),
    });
  };
  const asked = asking && acts[asking.act];
  return (
    <div className="control" data-kind="list" data-control={id} role="group" aria-label={textOf(face)}>
      <Face face={face} view={view}>
        {mark && <OutcomeMark key={mark.control} mark={mark} />}
      </Face>
      <ul className={listClass} data-form={form} role="listbox" aria-label={textOf(face)} tabIndex={-1}>
        {items.map((each) => (
          <Item key={each.index} item={each} chosen={each.index === chosen} disabled={disabled} onChoose={setChosen} />
        ))}
        {items.length === 0 && <li className="p-2.5 text-[13px] text-ink-soft">The device lists nothing now.</li>}
      </ul>
      {asked ? (
        <Ask
          act={asked}
          about={asked.item ? item?.title : undefined}
          onGive={(text) => run(asking.act, asking.guard, text)}
          onLeave={() => setAsking(undefined)}
        />
      ) : (
        <div className={listActsClass}>
          {acts.map((act, n) => (
            <ActButton
              key={act.title}
              act={act}
              disabled={disabled || (act.item && !item)}
              onRun={(guard) => run(n, guard)}
            />
          ))}
        </div>
      )}
    </div>
  );
}

interface ItemProps {
  readonly item: ListItem;
  readonly chosen: boolean;
  readonly disabled: boolean | undefined;
  readonly onChoose: (index: number) => void;
}

const Item = ({ item, chosen, disabled, onChoose }: ItemProps) => (
  <li role="presentation">
    <button
      type="button"
      className={listRowClass}
      role="option"
      aria-selected={chosen}
      disabled={disabled}
      data-mark={item.mark}
      onClick={() => onChoose(item.index)}
    >
      <ListItemFace item={item} />
    </button>
  </li>
);

function ActButton({
  act,
  disabled,
  onRun,
}: {
  readonly act: Act;
  readonly disabled: boolean | undefined;
  readonly onRun: (guard: boolean) => void;
}) {
  const { filling, handlers } = useHand({ disabled, guarded: act.guarded, onPress: onRun });
  return (
    <button type="button" disabled={disabled} data-filling={filling || undefined} {...handlers}>
      {act.title}
      {act.ask && ' …'}
    </button>
  );
}

interface AskProps {
  readonly act: Act;
  readonly about: string | undefined;
  readonly onGive: (text: string) => void;
  readonly onLeave: () => void;
}

function Ask({ act, about, onGive, onLeave }: AskProps) {
  const [typed, setTyped] = useState('');
  return (
    <form
      className="flex flex-none flex-wrap border-t border-rule-strong [&_button]:min-h-11 [&_button]:min-w-14 [&_button]:flex-1 [&_button]:border-r [&_button]:border-rule [&_button]:px-1.5 [&_button]:font-semibold [&_input]:min-h-11 [&_input]:w-full [&_input]:bg-ground [&_label]:flex-[1_1_100%] [&_label]:px-2 [&_label]:py-1.5 [&_label]:text-left"
      onSubmit={(event) => {
        event.preventDefault();
        onGive(typed);
      }}
    >
      <label>
        {act.title}
        {about && ` ${about}`}: {act.ask}
        <input autoFocus value={typed} onChange={(event) => setTyped(event.target.value)} />
      </label>
      <button type="submit">{act.title}</button>
      <button type="button" onClick={onLeave}>
        Cancel
      </button>
    </form>
  );
}
