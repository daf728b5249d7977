'use client';

import { useState } from 'react';
import { documentFor, type DriverDocument } from '../../../core/driver';
import type { Problem } from '../../../core/result';
import { copyAddition, type DeviceRecord } from '../../../core/show';
import { useDesk, useShow } from '../../desk';
import { Button, Dialog, Select, tellDone } from '../../kit';
import { ProblemList } from './problem-list';

interface Props {
  readonly from: DeviceRecord;
  /** Its document, without what the show adds. */
  readonly document: DriverDocument;
  readonly drivers: readonly DriverDocument[];
  readonly kind: 'command' | 'reading';
  readonly id: string;
  readonly title: string;
  readonly onClose: () => void;
}

/** Copies a command or reading to another device, with what it rests on. */
export function CopyDialog({ from, document, drivers, kind, id, title, onClose }: Props) {
  const desk = useDesk();
  const { show } = useShow();
  const others = (show?.records ?? []).filter(
    (each): each is DeviceRecord =>
      each.kind === 'device' && each.id !== from.id && framingOf(drivers, each) === document.framing.kind,
  );
  const [chosen, setChosen] = useState<string>();
  const [problems, setProblems] = useState<readonly Problem[]>([]);
  const copy = async () => {
    const to = others.find((each) => each.id === chosen);
    const driver = to && drivers.find((each) => each.id === to.data.driver);
    if (!to || !driver) return;
    const target = { document: documentFor(driver, { options: to.data.options }), additions: to.data.additions };
    const made = copyAddition({ document, additions: from.data.additions }, kind, id, target);
    setProblems(made.ok ? [] : made.error);
    if (!made.ok) return;
    const next = { ...to, data: { ...to.data, additions: made.value } };
    const edit = {
      title: `Copy “${title}” to ${to.data.tag}`,
      changes: [{ op: 'update' as const, from: to, to: next }],
    };
    if (!(await desk.edit(edit))) return;
    tellDone(`“${title}” was copied to ${to.data.tag}.`, `copied ${id}`);
    onClose();
  };
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      isForm
      title={`Copy “${title}”`}
      description="What confirms or stops it is copied too."
      acts={
        <Button kind="strong" disabled={chosen === undefined} onClick={() => void copy()}>
          Copy to device
        </Button>
      }
    >
      {others.length === 0 ? (
        <p>No other device in the rig takes messages of this kind.</p>
      ) : (
        <Select
          label="Device"
          value={chosen}
          placeholder="Choose a device"
          options={others.map(({ id: value, data }) => ({ value, title: `${data.tag} ${data.name}` }))}
          onChoose={setChosen}
        />
      )}
      <ProblemList problems={problems} />
    </Dialog>
  );
}

function framingOf(drivers: readonly DriverDocument[], { data }: DeviceRecord): string | undefined {
  const driver = drivers.find(({ id }) => id === data.driver);
  return driver && documentFor(driver, { options: data.options }).framing.kind;
}
