'use client';

import { useState } from 'react';
import type { DeskView, SnapshotRecord } from '../../core/show';
import { Button, Dialog, Menu } from '../kit';
import { ImportFile } from './import-file';
import { LayoutShelf } from './layout-shelf';
import { SaveFile } from './save-file';
import type { SnapshotFacts } from './use-snapshot-facts';

interface Props {
  readonly show: DeskView;
  readonly facts: SnapshotFacts;
  readonly chosen: SnapshotRecord | undefined;
}

const titles = {
  layouts: 'Add layouts',
  file: 'Import snapshots',
  save: 'Save snapshots and macros as a file',
} as const;

/** Snapshots come in from a file or from the layouts that ship, and go out as a file. */
export function Collections({ show, facts, chosen }: Props) {
  const [isOpen, setOpen] = useState<keyof typeof titles>();
  const close = () => setOpen(undefined);
  const isNone = show.records.every(({ kind }) => kind !== 'snapshot' && kind !== 'macro');
  const folder = chosen?.data.folder;
  return (
    <>
      <Menu
        acts={[
          { title: 'Add layouts …', run: () => setOpen('layouts') },
          { title: 'Import a file …', run: () => setOpen('file') },
          { title: 'Save as a file …', disabled: isNone, run: () => setOpen('save') },
        ]}
      >
        <Button>Import, save</Button>
      </Menu>
      <Dialog
        title={isOpen === undefined ? '' : titles[isOpen]}
        size="full"
        isForm
        open={isOpen !== undefined}
        onOpenChange={(on) => !on && close()}
      >
        {isOpen === 'layouts' && <LayoutShelf show={show} facts={facts} onDone={close} />}
        {isOpen === 'file' && <ImportFile show={show} facts={facts} onDone={close} />}
        {isOpen === 'save' && <SaveFile show={show} facts={facts} folder={folder || undefined} onDone={close} />}
      </Dialog>
    </>
  );
}
