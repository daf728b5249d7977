'use client';

import { useState } from 'react';
import type { ScreenView, StatusView } from '../../core/live';
import { inNumberOrder } from '../../core/number-order';
import { useLive, useNow, useScreens, useStatus } from '../live';
import { ageText, durationText } from '../parts';
import { Button, Select } from '../kit';

/** What was used longer ago does not blink when the list is opened. */
const blinkMs = 2000;

/** Every screen that is connected and the gear at it: where it is, how it fares, and what it can be told. */
export function ScreensPart() {
  const screens = useScreens();
  const status = useStatus();
  const rows = Object.entries(screens ?? {}).sort(([a], [b]) => inNumberOrder(a, b));
  return (
    <section aria-labelledby="screens-title" className="mt-7">
      <h2 id="screens-title">Screens and hand gear</h2>
      {rows.length === 0 && <p className="text-ink-soft">No screen is connected.</p>}
      <ul>
        {rows.map(([name, screen]) => (
          <ScreenRow key={name} name={name} screen={screen} status={status} />
        ))}
      </ul>
    </section>
  );
}

interface RowProps {
  readonly name: string;
  readonly screen: ScreenView;
  readonly status: StatusView | undefined;
}

function ScreenRow({ name, screen, status }: RowProps) {
  const live = useLive();
  const now = useNow();
  const [note, setNote] = useState<string>();
  const panel = status?.panels.find(({ id }) => id === screen.panel);
  const pages = (status?.pages ?? []).filter(
    ({ id }) => !panel || panel.pages.length === 0 || panel.pages.includes(id),
  );
  const isPanel = screen.kind === 'panel';
  const send = () => {
    if (note && note.trim() !== '') live.tell(name, { do: 'note', text: note.trim() });
    setNote(undefined);
  };
  return (
    <li
      className="grid grid-cols-[18px_190px_260px_minmax(160px,1fr)_auto] items-center gap-x-4 gap-y-1 border-b border-rule py-2 max-[900px]:grid-cols-[18px_minmax(0,1fr)] max-[900px]:[&>*]:col-[2]"
      aria-label={name}
    >
      <Blink usedAt={screen.usedAt} />
      <span className="flex flex-wrap gap-x-3 gap-y-0">
        <b>{screen.who}</b>
        <span className="text-ink-soft">
          {screen.title}
          {screen.joined && ' · joined'}
        </span>
      </span>
      <span className="flex items-center gap-2.5">
        {screen.clock !== undefined ? (
          <>
            Clock <span className="font-mono font-semibold">{screen.clock}</span>
          </>
        ) : screen.tally !== undefined ? (
          screen.tally === '' ? (
            'Tally, camera not chosen'
          ) : (
            <>
              Tally <span className="font-mono font-semibold">{screen.tally}</span>
            </>
          )
        ) : isPanel ? (
          <>
            {panel?.name ?? 'all pages'}
            <Select
              label={`Page of ${name}`}
              labelAt="hidden"
              value={screen.page ?? undefined}
              placeholder="no page"
              options={pages.map(({ id, name: title }) => ({ value: id, title }))}
              onChoose={(page) => live.tell(name, { do: 'go', page })}
            />
          </>
        ) : (
          'desk'
        )}
      </span>
      <span className="flex flex-wrap gap-x-3 gap-y-0">
        <span title="There and back">{screen.delayMs === undefined ? '…' : durationText(screen.delayMs)}</span>
        <span className={screen.cuts + screen.missed > 0 ? '' : 'text-ink-soft'}>
          {screen.cuts === 0 && screen.missed === 0 ? 'no losses' : `cut ${screen.cuts} times, ${screen.missed} missed`}
        </span>
        <span className="text-ink-soft">
          {screen.usedAt && now > 0 ? `used ${ageText(Math.max(0, now - screen.usedAt))} ago` : 'not used yet'}
        </span>
      </span>
      {screen.gear.length > 0 && (
        <ul
          className="col-[2/-1] flex flex-wrap gap-x-5.5 gap-y-1 [&_li]:flex [&_li]:items-center [&_li]:gap-2"
          aria-label={`Gear at ${name}`}
        >
          {screen.gear.map((gear) => (
            <li key={gear.id}>
              <Blink usedAt={gear.usedAt} />
              {gear.name} <span className="text-ink-soft">{gear.state}</span>
            </li>
          ))}
        </ul>
      )}
      {isPanel && (
        <span className="flex flex-wrap gap-2">
          <Button kind="ghost" onClick={() => live.tell(name, { do: 'call out' })}>
            Identify
          </Button>
          <Button
            kind="ghost"
            aria-expanded={note !== undefined}
            onClick={() => setNote(note === undefined ? '' : undefined)}
          >
            Note
          </Button>
          <Button kind="ghost" onClick={() => live.tell(name, { do: 'redraw' })}>
            Redraw
          </Button>
          <Button kind="ghost" onClick={() => live.tell(name, { do: 'close' })}>
            Close
          </Button>
        </span>
      )}
      {note !== undefined && (
        <form
          className="col-[2/-1] flex gap-2 [&_input]:flex-1"
          onSubmit={(event) => {
            event.preventDefault();
            send();
          }}
        >
          <input
            autoFocus
            aria-label={`Note to ${name}`}
            value={note}
            maxLength={300}
            onChange={(event) => setNote(event.target.value)}
          />
          <Button type="submit">Send</Button>
        </form>
      )}
      {screen.note && (
        <span className="col-[2/-1] flex gap-2 text-ink-soft">
          “{screen.note.text}” {screen.note.seen ? '· seen' : '· not seen yet'}
        </span>
      )}
    </li>
  );
}

/** Lights up once each time something is used. */
function Blink({ usedAt }: { readonly usedAt: number | undefined }) {
  const live = useLive();
  const fresh = usedAt !== undefined && live.now() - usedAt < blinkMs;
  return (
    <span
      key={usedAt}
      className="screen-blink h-3.5 w-3.5 border-2 border-rule-strong data-used:animate-[used_0.9s_ease-out] max-[900px]:col-[1]"
      data-used={fresh || undefined}
      aria-hidden
    />
  );
}
