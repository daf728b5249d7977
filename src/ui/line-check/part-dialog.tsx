'use client';

import { useState } from 'react';
import type { StatusView } from '../../core/live';
import { inNumberOrder } from '../../core/number-order';
import { Button, Dialog, Segmented, Select } from '../kit';
import type { LineCheckDesk } from '../proofs';

type Kind = 'devices' | 'pages' | 'panels' | 'sites';

interface Props {
  readonly isOpen: boolean;
  readonly onOpenChange: (open: boolean) => void;
  readonly status: StatusView | undefined;
  /** Where the devices of the show are. */
  readonly sites: readonly string[];
  readonly check: LineCheckDesk;
}

/** Asks which part of the show is checked: a device, a page, a panel with its pages, or a site with its devices. */
export function PartDialog({ isOpen, onOpenChange, status, sites, check: { run, isAsking } }: Props) {
  const [kind, setKind] = useState<Kind>('devices');
  const [chosen, setChosen] = useState<Readonly<Partial<Record<Kind, string>>>>({});
  const options: Readonly<Record<Kind, readonly { readonly value: string; readonly title: string }[]>> = {
    devices: Object.entries(status?.devices ?? {})
      .sort(([, a], [, b]) => inNumberOrder(a.tag, b.tag))
      .map(([value, { tag, name }]) => ({ value, title: `${tag} ${name}` })),
    pages: (status?.pages ?? []).map(({ id, name }) => ({ value: id, title: name })),
    panels: (status?.panels ?? []).map(({ id, name }) => ({ value: id, title: name })),
    sites: sites.map((site) => ({ value: site, title: site })),
  };
  const value = chosen[kind] ?? options[kind][0]?.value;
  const begin = () => {
    onOpenChange(false);
    if (value !== undefined) void run({ [kind]: [value], only: 'all' });
  };
  return (
    <Dialog
      title="Check a part"
      isForm
      open={isOpen}
      onOpenChange={onOpenChange}
      acts={
        <Button kind="strong" disabled={isAsking || value === undefined} onClick={begin}>
          Check
        </Button>
      }
    >
      <Segmented
        label="What to check"
        value={kind}
        options={[
          { value: 'devices', title: 'A device' },
          { value: 'pages', title: 'A page' },
          { value: 'panels', title: 'A panel' },
          { value: 'sites', title: 'A site' },
        ]}
        onChoose={setKind}
      />
      {options[kind].length === 0 ? (
        <p className="text-ink-soft">The show has none.</p>
      ) : (
        <Select
          label={{ devices: 'Device', pages: 'Page', panels: 'Panel', sites: 'Site' }[kind]}
          value={value}
          options={options[kind]}
          onChoose={(to) => setChosen({ ...chosen, [kind]: to })}
        />
      )}
    </Dialog>
  );
}
