'use client';

import { useState } from 'react';
import type { StatusView } from '../../core/live';
import { inNumberOrder } from '../../core/number-order';
import { Button, Checkbox, Dialog, NumberField } from '../kit';
import { askLineCheck } from '../proofs';

const usualMinutes = 10;

/** Asks how long the rig is exercised, and which devices may be changed for a moment meanwhile. */
export function BurnInDialog({ devices }: { readonly devices: StatusView['devices'] }) {
  const [isOpen, setOpen] = useState(false);
  const [isAsking, setAsking] = useState(false);
  const [minutes, setMinutes] = useState(usualMinutes);
  const [putBack, setPutBack] = useState<ReadonlySet<string>>(new Set());
  const all = Object.entries(devices)
    .filter(([, { link }]) => link.word !== 'off')
    .sort(([, a], [, b]) => inNumberOrder(a.tag, b.tag));
  const begin = async () => {
    setAsking(true);
    const isDone = await askLineCheck('burn-in', { minutes, putBack: [...putBack] });
    setAsking(false);
    if (isDone) setOpen(false);
  };
  return (
    <Dialog
      title="Begin a burn-in"
      isForm
      open={isOpen}
      onOpenChange={setOpen}
      trigger={
        <Button kind="strong" disabled={all.length === 0}>
          Begin burn-in …
        </Button>
      }
      description="Each device is asked a harmless question up to five times a second. At the devices ticked below, commands that passed in a rehearsal are also tried and put back. Do not operate these devices meanwhile."
      acts={
        <Button kind="live" disabled={isAsking} onClick={() => void begin()}>
          Begin burn-in
        </Button>
      }
    >
      <NumberField
        label="Duration"
        unit="min"
        min={0.1}
        max={1440}
        step={1}
        value={minutes}
        onCommit={setMinutes}
        className="[&_input]:w-24"
      />
      <fieldset>
        <legend className="mb-1 text-ink-soft">Also try commands at</legend>
        <ul className="grid max-h-60 gap-1 overflow-y-auto">
          {all.map(([id, { tag, name }]) => (
            <li key={id}>
              <Checkbox
                label={`${tag} ${name}`}
                checked={putBack.has(id)}
                onChange={(isOn) =>
                  setPutBack(new Set(isOn ? [...putBack, id] : [...putBack].filter((each) => each !== id)))
                }
              />
            </li>
          ))}
        </ul>
      </fieldset>
    </Dialog>
  );
}
