'use client';

import { useState } from 'react';
import { Button, Checkbox, Dialog } from '../kit';
import type { CheckItemView } from '../../core/live';
import type { LineCheckDesk } from '../proofs';

interface Props {
  readonly items: readonly CheckItemView[];
  readonly names: ReadonlyMap<string, string>;
  readonly check: LineCheckDesk;
}

/** Asks which devices may be changed for a moment, with how many commands that is at each. Nothing is sent before that. */
export function PutBackDialog({ items, names, check: { run, isAsking } }: Props) {
  const [isOpen, setOpen] = useState(false);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const counts = new Map<string, number>();
  for (const { proofs } of items)
    for (const proof of proofs)
      if (proof.by === 'put-back') counts.set(proof.send.device, (counts.get(proof.send.device) ?? 0) + 1);
  const devices = [...counts].map(([id, count]) => ({ id, count, name: names.get(id) ?? id }));
  devices.sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
  const commands = items.filter(({ kind }) => kind === 'command');
  const harmless = commands.filter(({ proofs }) => proofs.some(({ by }) => by === 'query')).length;
  const never = commands.filter(({ proofs }) => !proofs.some(({ by }) => by === 'query' || by === 'put-back')).length;
  const turn = (id: string, isOn: boolean) => {
    const next = new Set(chosen);
    if (isOn) next.add(id);
    else next.delete(id);
    setChosen(next);
  };
  const begin = () => {
    setOpen(false);
    void run({ devices: [...chosen], putBack: [...chosen], only: 'all' });
  };
  return (
    <Dialog
      title="Try commands at the devices"
      isForm
      open={isOpen}
      onOpenChange={setOpen}
      trigger={<Button disabled={isAsking || devices.length === 0}>Try at devices …</Button>}
      description="Each command is sent, its report awaited, and what it changed is put back. Whatever happens meanwhile, the program puts it back as soon as it can. Devices on air, streaming or recording are left alone, and so is everything that did not pass in a rehearsal. Nobody should work these devices meanwhile."
      acts={
        <Button kind="live" disabled={chosen.size === 0 || isAsking} onClick={begin}>
          {chosen.size === 0
            ? 'Choose devices'
            : chosen.size === 1
              ? 'Try at 1 device'
              : `Try at ${chosen.size} devices`}
        </Button>
      }
    >
      <p className="text-ink-soft">
        {harmless > 0 &&
          `${harmless === 1 ? '1 harmless query is' : `${harmless} harmless queries are`} sent in every check. `}
        {never > 0 &&
          `${never === 1 ? '1 command is' : `${never} commands are`} never tried at the devices: risky, or without a report that would show that it was put back.`}
      </p>
      <ul className="grid gap-1">
        {devices.map(({ id, name, count }) => (
          <li key={id} className="flex items-center justify-between gap-3">
            <Checkbox label={name} checked={chosen.has(id)} onChange={(isOn) => turn(id, isOn)} />
            <span className="text-ink-soft">{count === 1 ? '1 command' : `${count} commands`}</span>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
