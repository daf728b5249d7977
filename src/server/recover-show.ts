import { readShowFile } from '../core/show';
import { backups, loadShow, openShow, readBackup, setAside, showState, type Backup, type ShowState } from '../store';

/** What is done about a show that cannot be opened, as a person has decided: bring back the last backup, or begin a new show. */
export type Recover = 'backup' | 'new';

/** The show cannot be opened, and what to do is a person's decision. */
class ShowUnusable extends Error {
  readonly code = 'show-unusable';
}

/**
 * Makes sure that the show of a data folder is not replaced by a new one in silence. A damaged `show.db`, and none at all or an empty one beside
 * backups, is refused until somebody says what to do; the file itself is kept under another name.
 *
 * @returns what was done, as a sentence
 * @throws ShowUnusable with a sentence that says what is wrong, what is lost and what to do
 */
export function recoverShow(dataDir: string, recover: Recover | undefined, now: number): string | undefined {
  const state = showState(dataDir);
  const last = backups(dataDir)[0];
  if (state === 'well' || (state !== 'damaged' && !last)) return undefined;
  if (recover === undefined) throw new ShowUnusable(refusal(dataDir, state, last));
  const aside = state === 'absent' ? undefined : setAside(dataDir, 'show.db', now);
  const kept = aside === undefined ? '' : ` The file that was there is ${aside} now.`;
  if (recover === 'new') return `A new show begins.${kept}`;
  const restored = restore(dataDir, now);
  return `The backup ${restored} was restored.${kept} Enter the passwords of the devices again: backups hold none.`;
}

function refusal(dataDir: string, state: ShowState, last: Backup | undefined): string {
  const what = {
    damaged: `The show in ${dataDir} (show.db) is damaged and cannot be opened.`,
    empty: `The show in ${dataDir} (show.db) is empty, but there are backups of a show.`,
    absent: `There is no show.db in ${dataDir}, but there are backups of a show.`,
    well: '',
  }[state];
  const toDo = last
    ? `Start once with RECOVER=backup to restore the last backup, of ${new Date(last.at).toLocaleString('en-GB')}: edits made since, undo history, revisions and device passwords are lost. Start once with RECOVER=new to begin a new show.`
    : 'There is no backup. Put a copy of show.db back, or start once with RECOVER=new to begin a new show.';
  return `${what} ${toDo} Nothing is deleted: the file is kept under another name.`;
}

/** Loads the newest backup that can be read into a new show. Returns its name. */
function restore(dataDir: string, now: number): string {
  const tried: string[] = [];
  for (const { name } of backups(dataDir)) {
    const file = readShowFile(readBackup(dataDir, name) ?? '');
    if (!file.ok) {
      tried.push(name);
      continue;
    }
    const { db, close } = openShow(dataDir);
    try {
      const { drivers = [] } = file.value;
      const loading = { file: file.value, drivers, passwords: new Map<string, string>(), addresses: 'file' as const };
      const done = loadShow(db, dataDir, { ...loading, window: 'recovery' }, now);
      if (done.ok) return name;
      tried.push(name);
    } finally {
      close();
    }
  }
  throw new ShowUnusable(
    `No backup can be read (${tried.join(', ')}). Start once with RECOVER=new to begin a new show.`,
  );
}
