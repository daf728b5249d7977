'use client';

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useDesk } from '../desk';
import { Button } from '../parts';

/** The backups that were made by themselves, each to be brought back. */
export function BackupPart() {
  const desk = useDesk();
  const queries = useQueryClient();
  const [asked, setAsked] = useState<string>();
  const list = useQuery({ queryKey: ['backups'], queryFn: () => desk.listBackups() }).data;
  const restore = async (name: string) => {
    if (asked !== name) return setAsked(name);
    setAsked(undefined);
    await desk.restoreBackup(name);
    await queries.invalidateQueries({ queryKey: ['backups'] });
  };
  return (
    <section aria-labelledby="backups-title">
      <h2 id="backups-title">Backups</h2>
      <p className="muted">
        Made by themselves: once a day, and before anything is loaded or brought back. The last twenty are kept, without
        passwords; those that are stored here stay as they are.
      </p>
      {list?.length === 0 && <p>None yet. The first is made with the first edit of a day.</p>}
      <ul className="backups">
        {(list ?? []).map(({ name, at, why, bytes }) => (
          <li key={name}>
            <span className="mono">{new Date(at).toLocaleString('en-GB')}</span>
            <span className="muted">
              {why}, {Math.max(1, Math.round(bytes / 1024))} kB
            </span>
            <Button onClick={() => void restore(name)}>
              {asked === name ? 'Really bring it back' : 'Bring it back'}
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
