'use client';

import { useId } from 'react';
import type { DeskView } from '../../core/show';
import { foldersOf, snapshotsOf } from '../../core/snapshot';
import { CommitInput, Field } from '../kit';

interface Props {
  readonly show: DeskView;
  readonly value: string;
  readonly onChoose: (folder: string) => void;
}

/** The name of a folder: one that there is, or a new one. */
export function FolderField({ show, value, onChoose }: Props) {
  const list = useId();
  return (
    <Field label="Folder">
      {(ids) => (
        <>
          <CommitInput
            {...ids}
            list={list}
            maxLength={40}
            value={value}
            placeholder="No folder"
            onCommit={(text) => onChoose(text.trim())}
          />
          <datalist id={list}>
            {foldersOf(snapshotsOf(show.records))
              .filter((name) => name !== '')
              .map((name) => (
                <option key={name} value={name} />
              ))}
          </datalist>
        </>
      )}
    </Field>
  );
}
