'use client';

import { useEffect, useRef, useState } from 'react';
import type { WireRow } from '../../core/live';
import { useShow } from '../desk';
import { Button, Menu } from '../kit';
import { keptWirePieces, saveWireCapture, saveWireLines, type WirePieces } from './save-wire';

interface Props {
  /** What the screen shows now. */
  readonly rows: readonly WireRow[];
  readonly wordsOf: (row: WireRow) => { readonly tag: string; readonly text: string; readonly meaning: string };
  /** A capture is looked at: the engine knows nothing of it, and it is one already. */
  readonly isCaptured: boolean;
  readonly onSay: (text: string) => void;
}

/** Saves what is shown, or all that the engine keeps. The latter is fetched piece by piece and can be cancelled. */
export function SaveMenu({ rows, wordsOf, isCaptured, onSay }: Props) {
  const { show } = useShow();
  const [fetched, setFetched] = useState<number>();
  const fetching = useRef<AbortController>(undefined);
  useEffect(() => () => fetching.current?.abort(), []);

  const saveKept = async (save: (pieces: WirePieces) => Promise<number>) => {
    const controller = new AbortController();
    fetching.current = controller;
    setFetched(0);
    try {
      const count = await save(counted(keptWirePieces(controller.signal), (sum) => setFetched(sum)));
      onSay(`${count.toLocaleString('en-GB')} rows saved.`);
    } catch (error) {
      onSay(controller.signal.aborted ? 'Saving cancelled.' : error instanceof Error ? error.message : String(error));
    } finally {
      setFetched(undefined);
    }
  };
  if (fetched !== undefined)
    return (
      <Button
        onClick={() => fetching.current?.abort()}
      >{`Cancel saving, ${fetched.toLocaleString('en-GB')} rows so far`}</Button>
    );
  return (
    <Menu
      acts={[
        {
          title: 'Shown rows as JSON lines',
          run: () => void saveWireLines([rows], wordsOf),
          disabled: rows.length === 0,
        },
        {
          title: 'Shown rows as a capture (pcapng)',
          run: () => show && void saveWireCapture([rows], show, wordsOf),
          disabled: isCaptured || rows.length === 0,
        },
        {
          title: 'All kept rows as JSON lines',
          run: () => void saveKept((pieces) => saveWireLines(pieces, wordsOf)),
          disabled: isCaptured,
        },
        {
          title: 'All kept rows as a capture (pcapng)',
          run: () => show && void saveKept((pieces) => saveWireCapture(pieces, show, wordsOf)),
          disabled: isCaptured,
        },
      ]}
    >
      <Button>Save</Button>
    </Menu>
  );
}

async function* counted(
  pieces: AsyncIterable<readonly WireRow[]>,
  onCount: (sum: number) => void,
): AsyncGenerator<readonly WireRow[]> {
  let sum = 0;
  for await (const rows of pieces) {
    yield rows;
    onCount((sum += rows.length));
  }
}
