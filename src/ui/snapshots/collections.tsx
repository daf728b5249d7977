'use client';

import { useState } from 'react';
import type { DeskView, SnapshotRecord } from '../../core/show';
import { collectionOf, snapshotsOf } from '../../core/snapshot';
import { Button, Dialog, Menu } from '../kit';
import { saveJson } from '../parts';
import { ImportFile } from './import-file';
import { LayoutShelf } from './layout-shelf';
import type { SnapshotFacts } from './use-snapshot-facts';

interface Props {
  readonly show: DeskView;
  readonly facts: SnapshotFacts;
  readonly chosen: SnapshotRecord | undefined;
}

/** Snapshots come in from a file or from the layouts that ship, and go out as a file. */
export function Collections({ show, facts, chosen }: Props) {
  const [isOpen, setOpen] = useState<'layouts' | 'file'>();
  const all = snapshotsOf(show.records);
  const save = (title: string, snapshots: readonly SnapshotRecord[]) =>
    saveJson(
      `${title.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-')}.json`,
      JSON.stringify(collectionOf(title, snapshots, facts.deviceOf), null, 2),
    );
  const folder = chosen?.data.folder ?? '';
  return (
    <>
      <Menu
        acts={[
          { title: 'Add layouts …', run: () => setOpen('layouts') },
          { title: 'Import a file …', run: () => setOpen('file') },
          { title: 'Save all as a file', disabled: all.length === 0, run: () => save('Snapshots', all) },
          ...(chosen && folder !== ''
            ? [
                {
                  title: `Save folder ${folder} as a file`,
                  run: () =>
                    save(
                      folder,
                      all.filter(({ data }) => data.folder === folder),
                    ),
                },
              ]
            : []),
        ]}
      >
        <Button>Import, save</Button>
      </Menu>
      <Dialog
        title="Add layouts"
        size="full"
        isForm
        open={isOpen === 'layouts'}
        onOpenChange={(on) => setOpen(on ? 'layouts' : undefined)}
      >
        {isOpen === 'layouts' && <LayoutShelf show={show} facts={facts} onDone={() => setOpen(undefined)} />}
      </Dialog>
      <Dialog
        title="Import snapshots"
        size="full"
        isForm
        open={isOpen === 'file'}
        onOpenChange={(on) => setOpen(on ? 'file' : undefined)}
      >
        {isOpen === 'file' && <ImportFile show={show} facts={facts} onDone={() => setOpen(undefined)} />}
      </Dialog>
    </>
  );
}
