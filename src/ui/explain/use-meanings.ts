'use client';

import { useCallback, useMemo } from 'react';
import { frameMeaning, sentMeaning, type CompiledDriver } from '../../core/driver';
import type { WireRow } from '../../core/live';
import { compiledOf, documentOfRecord, useShow } from '../desk';

/** What a row of the wire means, in words: of what was sent the command, of what came what the driver reads in it. */
export function useMeanings(): (row: WireRow) => string {
  const { show } = useShow();
  const known = useMemo(() => {
    const drivers = new Map<string, CompiledDriver | undefined>();
    const driverOf = (id: string): CompiledDriver | undefined => {
      if (drivers.has(id)) return drivers.get(id);
      const record = show?.records.find((each) => each.kind === 'device' && each.id === id);
      const document = show && record?.kind === 'device' ? documentOfRecord(show.drivers, record) : undefined;
      const driver = document && compiledOf(document);
      drivers.set(id, driver);
      return driver;
    };
    return { meanings: new WeakMap<WireRow, string>(), driverOf };
  }, [show]);
  return useCallback(
    (row) => {
      let meaning = known.meanings.get(row);
      if (meaning === undefined) known.meanings.set(row, (meaning = meaningOf(row, known.driverOf(row.device))));
      return meaning;
    },
    [known],
  );
}

function meaningOf({ dir, hex, name, says }: WireRow, driver: CompiledDriver | undefined): string {
  if (dir === 'note') return '';
  const command = says ?? (name === undefined ? undefined : driver?.document.commands[name]?.title);
  // Of a capture nobody knows what was meant: the bytes say it.
  if (dir === 'out')
    return command ?? (name === undefined ? ((driver && sentMeaning(driver, hex)) ?? '') : `Question: ${name}`);
  const read = driver && frameMeaning(driver, hex, name);
  if (read !== undefined) return read;
  return name === undefined ? '' : `Answer to ${command ?? name}`;
}
