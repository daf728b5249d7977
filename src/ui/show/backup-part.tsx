'use client';

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { StagedShow } from '../../core/show';
import { useDesk } from '../desk';

import { Button } from '../kit';
import { LoadReview } from './load-review';

/** The automatic backups, each to be restored. */
export function BackupPart() {
  const desk = useDesk();
  const queries = useQueryClient();
  const [staged, setStaged] = useState<{ readonly name: string; readonly show: StagedShow }>();
  const list = useQuery({ queryKey: ['backups'], queryFn: () => desk.listBackups() }).data;
  const history = useQuery({ queryKey: ['history'], queryFn: async () => (await desk.history()) ?? null }).data;
  const look = async (name: string) => {
    const show = await desk.stageBackup(name);
    if (show.ok) setStaged({ name, show });
    else desk.say(show.message, true);
  };
  const onDone = (said: string) => {
    setStaged(undefined);
    desk.say(said);
    void queries.invalidateQueries({ queryKey: ['backups'] });
  };
  return (
    <section aria-labelledby="backups-title">
      <h2 id="backups-title">Backups</h2>
      <p className="text-ink-soft">
        Made automatically: once a day, and before a show is loaded or restored. The last twenty are kept, without
        passwords; the passwords stored here are not changed.
      </p>
      {history && (
        <p className="text-ink-soft">
          Undo history: {history.edits === 1 ? '1 edit' : `${history.edits.toLocaleString()} edits`},{' '}
          {megabytes(history.bytes)}; revisions: {history.revisions}. The oldest are removed beyond{' '}
          {history.limits.edits.toLocaleString()} edits, {megabytes(history.limits.bytes)} or{' '}
          {Math.round(history.limits.ageMs / 86_400_000)} days, and beyond {history.limits.revisions} revisions.
        </p>
      )}
      {list?.length === 0 && <p>None yet. The first is made with the first edit of a day.</p>}
      <ul className="[&_[data-slot=button]]:ml-auto [&_li]:flex [&_li]:flex-wrap [&_li]:items-center [&_li]:gap-x-3.5 [&_li]:gap-y-1 [&_li]:border-b [&_li]:border-rule [&_li]:px-0 [&_li]:py-1.25">
        {(list ?? []).map(({ name, at, why, bytes }) => (
          <li key={name}>
            <span className="font-mono text-[0.93em]">{new Date(at).toLocaleString()}</span>
            <span className="text-ink-soft">
              {why}, {Math.max(1, Math.round(bytes / 1024))} kB
            </span>
            <Button onClick={() => void look(name)}>Restore …</Button>
            {staged?.name === name && <LoadReview key={staged.show.id} staged={staged.show} onDone={onDone} />}
          </li>
        ))}
      </ul>
    </section>
  );
}

const megabytes = (bytes: number): string => `${(bytes / 1024 / 1024).toFixed(bytes < 10_485_760 ? 1 : 0)} MB`;
