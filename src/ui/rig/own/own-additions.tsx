'use client';

import { Ellipsis } from 'lucide-react';
import { useMemo, useState } from 'react';
import { asDriver, documentFor, ownDriverId, type DriverAdditions, type DriverDocument } from '../../../core/driver';
import {
  commandTyped,
  computedFromOwn,
  emptyCommand,
  emptyReading,
  readingTyped,
  sameAsOf,
  withoutAddition,
  type DeviceRecord,
  type OwnCommand,
  type OwnReading,
} from '../../../core/show';
import { useDesk } from '../../desk';
import { Button, EmptyState, IconButton, Menu } from '../../kit';
import { saveJson } from '../../parts';
import { CommandDialog } from './command-dialog';
import { CopyDialog } from './copy-dialog';
import { ReadingDialog } from './reading-dialog';

interface Props {
  readonly drivers: readonly DriverDocument[];
  readonly device: DeviceRecord;
  /** The device's document, with what the show adds. */
  readonly driver: DriverDocument;
}

/** Which dialog is open. */
type Open =
  | { readonly is: 'command'; readonly id: string | undefined; readonly initial: OwnCommand }
  | { readonly is: 'reading'; readonly id: string | undefined; readonly initial: OwnReading }
  | { readonly is: 'copy'; readonly kind: 'command' | 'reading'; readonly id: string; readonly title: string };

/** Commands and readings that this show adds to the device, beside what its driver has. */
export function OwnAdditions({ drivers, device, driver }: Props) {
  const desk = useDesk();
  const { additions, tag, options, role } = device.data;
  const [open, setOpen] = useState<Open>();
  const document = useMemo(() => {
    const whole = drivers.find(({ id }) => id === device.data.driver);
    return whole ? documentFor(whole, { options }) : driver;
  }, [drivers, device.data.driver, options, driver]);
  const save = async (next: DriverAdditions | undefined, title: string) => {
    const { additions: _, ...rest } = device.data;
    const to: DeviceRecord = { ...device, data: next ? { ...rest, additions: next } : rest };
    const isSaved = await desk.edit({ title, changes: [{ op: 'update', from: device, to }] });
    if (isSaved) setOpen(undefined);
    return isSaved;
  };
  const saveAsDriver = () => {
    const id = ownDriverId(
      tag,
      drivers.map((each) => each.id),
    );
    saveJson(`${id}.json`, JSON.stringify(asDriver(driver, { id, title: device.data.name, role }), null, 2));
  };
  const newCommand = emptyCommand(document);
  const close = () => setOpen(undefined);
  const dialog = { document, additions, role, onClose: close };
  return (
    <section className="grid gap-3 py-2.5">
      <h3 className="text-ink-soft">Added by this show</h3>
      <OwnList
        additions={additions}
        document={document}
        role={role}
        onOpen={setOpen}
        onRemove={(next, title) => void save(next, `Remove “${title}” of ${tag}`)}
      />
      {newCommand ? (
        <div className="flex flex-wrap gap-2.5">
          <Button onClick={() => setOpen({ is: 'command', id: undefined, initial: newCommand })}>Add command</Button>
          <Button onClick={() => setOpen({ is: 'reading', id: undefined, initial: emptyReading(document) })}>
            Add reading
          </Button>
        </div>
      ) : (
        <p className="text-ink-soft">
          This device does not take single messages. To add commands, install your own driver document.
        </p>
      )}
      <p className="flex flex-wrap items-center gap-3 border-t border-rule pt-3 text-[14px] text-ink-soft">
        <Button onClick={saveAsDriver}>Save as a driver document</Button>
        Its settings and what is added here, for other devices of this kind and other shows. Install it under Drivers.
      </p>
      {open?.is === 'command' && (
        <CommandDialog {...dialog} {...open} onSave={(next) => save(next, `${verb(open.id)} a command of ${tag}`)} />
      )}
      {open?.is === 'reading' && (
        <ReadingDialog {...dialog} {...open} onSave={(next) => save(next, `${verb(open.id)} a reading of ${tag}`)} />
      )}
      {open?.is === 'copy' && (
        <CopyDialog {...open} from={device} document={document} drivers={drivers} onClose={close} />
      )}
    </section>
  );
}

const verb = (id: string | undefined): string => (id === undefined ? 'Add' : 'Change');

interface ListProps {
  readonly additions: DriverAdditions | undefined;
  readonly document: DriverDocument;
  readonly role: string;
  readonly onOpen: (open: Open) => void;
  readonly onRemove: (next: DriverAdditions | undefined, title: string) => void;
}

function OwnList({ additions, document, role, onOpen, onRemove }: ListProps) {
  const own = [
    ...Object.entries(additions?.commands ?? {}).map(([id, { title }]) => ({ id, title, kind: 'command' as const })),
    ...Object.entries(additions?.readings ?? {}).map(([id, { title }]) => ({ id, title, kind: 'reading' as const })),
  ];
  if (!additions || own.length === 0)
    return (
      <EmptyState title="No commands or readings added yet.">
        A command of your own goes on controls and into macros like those of the driver. A reading of your own feeds
        lamps and labels.
      </EmptyState>
    );
  const edit = (kind: 'command' | 'reading', id: string): Open | undefined => {
    const command = kind === 'command' ? additions.commands[id] : undefined;
    const initial = command ? commandTyped(command, document) : undefined;
    const name = sameAsOf(additions, 'commands', id);
    if (initial) return { is: 'command', id, initial: name ? { ...initial, sameAs: { role, name } } : initial };
    const reading = kind === 'reading' ? readingTyped(id, additions, document) : undefined;
    const known = reading && sameAsOf(additions, 'readings', id);
    return reading && { is: 'reading', id, initial: known ? { ...reading, sameAs: { role, name: known } } : reading };
  };
  const removeTitle = (kind: 'command' | 'reading', id: string): string =>
    kind === 'reading' && computedFromOwn(additions, id).length > 0
      ? 'Remove reading and what is computed from it'
      : `Remove ${kind}`;
  return (
    <ul className="own-list grid">
      {own.map(({ id, title, kind }) => {
        const opens = edit(kind, id);
        return (
          <li key={`${kind} ${id}`} className="flex min-h-11 items-center gap-3 border-b border-rule">
            <span className="min-w-0 flex-1 truncate font-semibold">{title}</span>
            <span className="w-20 text-ink-soft">{kind}</span>
            <Button
              disabled={!opens}
              title={opens ? undefined : 'This form cannot show it. Edit it in a driver document.'}
              onClick={() => opens && onOpen(opens)}
            >
              Edit
            </Button>
            <Menu
              acts={[
                { title: 'Copy to another device', run: () => onOpen({ is: 'copy', kind, id, title }) },
                { title: removeTitle(kind, id), run: () => onRemove(withoutAddition(additions, kind, id), title) },
              ]}
            >
              <IconButton label={`More for ${title}`}>
                <Ellipsis aria-hidden size={18} />
              </IconButton>
            </Menu>
          </li>
        );
      })}
    </ul>
  );
}
