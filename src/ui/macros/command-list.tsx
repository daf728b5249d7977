'use client';

import { useDraggable } from '@dnd-kit/core';
import { useMemo, useState } from 'react';
import { commandEntries, WordSearch, type CommandEntry, type PickMatch } from '../../core/pick';
import type { MacroDoes } from '../../core/show';
import { CommandRow, useRigFacts } from '../fields';
import { dragListeners } from '../kit';
import { newSend } from './add-step';
import type { StepDragData } from './use-step-drag';

const mostRows = 60;

/** All commands of the rig, to drag onto the timeline, or to add behind the last step. */
export function CommandList({ onAdd }: { readonly onAdd: (does: MacroDoes) => void }) {
  const { readable, documentOf, readings } = useRigFacts();
  const [typed, setTyped] = useState('');
  // The sentences name the choices as they are now; the entries themselves need no newer readings than those of the first drawing.
  const [first] = useState(readings);
  const search = useMemo(
    () => new WordSearch(commandEntries({ readable, documentOf }, (device) => first.get(device))),
    [readable, documentOf, first],
  );
  const found = search.find(typed);
  return (
    <div className="flex flex-col gap-2">
      <label className="grid gap-1">
        Search
        <input
          type="search"
          value={typed}
          placeholder="c2 preset 4, key, horn …"
          onChange={(event) => setTyped(event.target.value)}
        />
      </label>
      <p className="text-[13px] text-ink-soft">
        Drag a command onto the timeline, or click it to add it behind the last step.
      </p>
      {found.length === 0 && <p>No command matches these words.</p>}
      <ul aria-label="Commands">
        {found.slice(0, mostRows).map((match) => (
          <CommandItem key={match.entry.id} match={match} onAdd={onAdd} />
        ))}
      </ul>
      {found.length > mostRows && (
        <p className="text-[13px] text-ink-soft">{found.length - mostRows} more. Type to narrow the list.</p>
      )}
    </div>
  );
}

interface ItemProps {
  readonly match: PickMatch<CommandEntry>;
  readonly onAdd: (does: MacroDoes) => void;
}

function CommandItem({ match, onAdd }: ItemProps) {
  const { documentOf } = useRigFacts();
  const { device, key, id } = match.entry;
  const document = documentOf(device.id);
  const does: MacroDoes | undefined = document && {
    is: 'send',
    send: newSend(document, device.id, key, match.values),
  };
  const data: StepDragData | undefined = does && { is: 'new', does, device: device.id };
  const { setNodeRef, listeners } = useDraggable({ id: `command ${id}`, data, disabled: !does });
  return (
    <li>
      <button
        ref={setNodeRef}
        type="button"
        className="grid min-h-8.5 w-full cursor-grab grid-cols-[44px_1fr] items-baseline gap-2 border-b border-rule px-1.5 py-1 text-left hover:bg-tape"
        onClick={() => does && onAdd(does)}
        {...dragListeners(listeners)}
      >
        <span className="font-mono text-[0.93em] font-semibold">{device.data.tag}</span>
        <span>
          <CommandRow {...match} />
        </span>
      </button>
    </li>
  );
}
