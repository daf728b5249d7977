'use client';

import { useState } from 'react';
import type { ScreenView, StatusView } from '../../core/live';
import { useLive, useNow, useScreens, useStatus } from '../live';
import { ageText, Button, durationText } from '../parts';
import { Select } from '../kit';

/** What was used longer ago does not blink when the list is opened. */
const blinkMs = 2000;

/** Every screen that is connected and the gear at it: where it is, how it fares, and what it can be told. */
export function ScreensPart() {
  const screens = useScreens();
  const status = useStatus();
  const rows = Object.entries(screens ?? {}).sort(([a], [b]) => a.localeCompare(b, 'en', { numeric: true }));
  return (
    <section aria-labelledby="screens-title" className="screens">
      <h2 id="screens-title">Screens and hand gear</h2>
      {rows.length === 0 && <p className="muted">No screen is connected.</p>}
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
    <li className="screen-row" aria-label={name}>
      <Blink usedAt={screen.usedAt} />
      <span className="screen-who">
        <b>{screen.who}</b>
        <span className="muted">
          {screen.title}
          {screen.joined && ' · joined'}
        </span>
      </span>
      <span className="screen-where">
        {isPanel ? (
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
      <span className="screen-fares">
        <span title="There and back">{screen.delayMs === undefined ? '…' : durationText(screen.delayMs)}</span>
        <span className={screen.cuts + screen.missed > 0 ? '' : 'muted'}>
          {screen.cuts === 0 && screen.missed === 0 ? 'no losses' : `cut ${screen.cuts} times, ${screen.missed} missed`}
        </span>
        <span className="muted">
          {screen.usedAt && now > 0 ? `used ${ageText(Math.max(0, now - screen.usedAt))} ago` : 'not used yet'}
        </span>
      </span>
      {screen.gear.length > 0 && (
        <ul className="screen-gear" aria-label={`Gear at ${name}`}>
          {screen.gear.map((gear) => (
            <li key={gear.id}>
              <Blink usedAt={gear.usedAt} />
              {gear.name} <span className="muted">{gear.state}</span>
            </li>
          ))}
        </ul>
      )}
      {isPanel && (
        <span className="screen-acts">
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
          className="screen-note-form"
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
        <span className="muted screen-noted">
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
  return <span key={usedAt} className="screen-blink" data-used={fresh || undefined} aria-hidden />;
}
