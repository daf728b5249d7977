'use client';

import { useCallback, useMemo } from 'react';
import { compileDriver, frameMeaning, type CompiledDriver } from '../../core/driver';
import type { WireRow } from '../../core/live';
import { documentOfRecord, useShow } from '../desk';

/** How many rows are remembered with their meaning. */
const mostRemembered = 4000;

/** What a row of the wire means, in words: of what was sent the command, of what came what the driver reads in it. */
export function useMeanings(): (row: WireRow) => string {
  const { show } = useShow();
  const known = useMemo(() => {
    const drivers = new Map<string, CompiledDriver | undefined>();
    const meanings = new Map<string, string>();
    const driverOf = (id: string): CompiledDriver | undefined => {
      if (drivers.has(id)) return drivers.get(id);
      const record = show?.records.find((each) => each.kind === 'device' && each.id === id);
      const document = show && record?.kind === 'device' ? documentOfRecord(show.drivers, record) : undefined;
      const compiled = document && compileDriver(document);
      const driver = compiled?.ok ? compiled.value : undefined;
      drivers.set(id, driver);
      return driver;
    };
    return { meanings, driverOf };
  }, [show]);
  return useCallback(
    (row) => {
      const { meanings, driverOf } = known;
      // A new engine counts its rows from the beginning again.
      const key = `${row.n} ${row.at}`;
      let meaning = meanings.get(key);
      if (meaning !== undefined) return meaning;
      meaning = meaningOf(row, driverOf(row.device));
      if (meanings.size >= mostRemembered) meanings.clear();
      meanings.set(key, meaning);
      return meaning;
    },
    [known],
  );
}

function meaningOf({ dir, hex, name, says }: WireRow, driver: CompiledDriver | undefined): string {
  if (dir === 'note') return '';
  const command = says ?? (name === undefined ? undefined : driver?.document.commands[name]?.title);
  if (dir === 'out') return command ?? (name === undefined ? '' : `Question: ${name}`);
  const read = driver && frameMeaning(driver, hex, name);
  if (read !== undefined) return read;
  return name === undefined ? '' : `Answer to ${command ?? name}`;
}
