'use client';

import { useState } from 'react';
import { documentFor, placeOf } from '../../core/driver';
import { cleanAddress, type CleanAddress } from '../../core/net';
import { Button, Field } from '../kit';
import type { DeskView, DeviceForm } from '../../core/show';

interface Props {
  readonly value: string;
  readonly onChange: (typed: string) => void;
  /** What was typed is understood as this. */
  readonly onClean: (clean: CleanAddress) => void;
  readonly onEnter: () => void;
}

/** An address as people paste it: cleaned when the field is left, and what was changed is said. */
export function AddressField({ value, onChange, onClean, onEnter }: Props) {
  const [changes, setChanges] = useState<readonly string[]>([]);
  const [left, setLeft] = useState(false);
  const checked = cleanAddress(value);
  const wrong = left && !checked.ok ? checked.error : undefined;
  const clean = () => {
    setLeft(true);
    if (!checked.ok) return;
    if (checked.value.changes.length > 0) setChanges(checked.value.changes);
    if (checked.value.host !== value || checked.value.port !== undefined) onClean(checked.value);
  };
  return (
    <Field
      label="Address"
      error={wrong}
      help={<span role="status">{changes.length > 0 && `Understood: ${changes.join('; ')}.`}</span>}
    >
      {(ids) => (
        <input
          {...ids}
          value={value}
          maxLength={300}
          spellCheck={false}
          className="font-mono text-[0.93em]"
          data-veil
          onChange={(e) => {
            setLeft(false);
            setChanges([]);
            onChange(e.target.value);
          }}
          onBlur={clean}
          onPaste={() => setTimeout(clean, 0)}
          onKeyDown={(e) => {
            if (e.key !== 'Enter') return;
            e.preventDefault();
            clean();
            if (checked.ok) onEnter();
          }}
        />
      )}
    </Field>
  );
}

interface PortNoteProps {
  readonly show: DeskView;
  readonly form: DeviceForm;
  readonly self: string | undefined;
  readonly onTake: (port: number) => void;
}

/** Says when another entry has the same address and port, and which port is free. */
export function PortNote({ show, form, self, onTake }: PortNoteProps) {
  if (form.host === '' || form.through !== '') return null;
  const placed = ({ driver, options }: Pick<DeviceForm, 'driver' | 'options'>, host: string, port: number) => {
    const document = show.drivers.find(({ id }) => id === driver);
    return placeOf(document && documentFor(document, { options }), host, port);
  };
  const taken = new Map(
    show.records.flatMap((record) => {
      if (record.kind !== 'device' || record.id === self || record.data.through) return [];
      const place = record.data.host === form.host && placed(record.data, record.data.host, record.data.port);
      return place ? [[place, record.data.tag] as const] : [];
    }),
  );
  const at = (port: number) => taken.get(placed(form, form.host, port) ?? '');
  const by = at(form.port);
  if (by === undefined) return null;
  let free = form.port + 1;
  while (at(free) !== undefined && free < 65_535) free += 1;
  return (
    <span className="text-[13px] font-semibold text-ink">
      {by} has this port at this address. <Button onClick={() => onTake(free)}>{`${free} is free`}</Button>
    </span>
  );
}
