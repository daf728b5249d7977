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

/** Snapshots come in from a file or from the layouts that ship, and go out as a file. */
export function Collections({ show, facts, chosen }: Props) {
  const [isOpen, setOpen] = useState<'layouts' | 'file' | 'save'>();
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
      <Dialog
        title="Save snapshots and macros as a file"
        size="full"
        isForm
        open={isOpen === 'save'}
        onOpenChange={(on) => setOpen(on ? 'save' : undefined)}
      >
        {isOpen === 'save' && (
          <SaveFile show={show} facts={facts} folder={folder || undefined} onDone={() => setOpen(undefined)} />
        )}
      </Dialog>
    </>
  );
}
