'use client';

import { useState } from 'react';
import type { Problem } from '../../core/result';
import type { StagedShow } from '../../core/show';
import { Button, FileDrop, Progress } from '../kit';
import { saveAsFile } from '../parts';

import { LoadReview } from './load-review';
import { uploadShow, type Upload } from './upload';

/** Saves the show as a file, and loads one. */
export function FilePart() {
  const [passphrase, setPassphrase] = useState('');
  const [part, setPart] = useState(0);
  const [upload, setUpload] = useState<Upload>();
  const [staged, setStaged] = useState<StagedShow>();
  const [problems, setProblems] = useState<readonly Problem[]>([]);
  const [said, setSaid] = useState<string>();
  const save = async (template: boolean) => {
    setProblems([]);
    const answer = await fetch('/desk/show-file/save', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ passphrase: template ? '' : passphrase, template }),
    }).catch(() => undefined);
    if (!answer?.ok) return setSaid(await reasonOf(answer));
    saveAsFile(decodeURIComponent(answer.headers.get('x-file-name') ?? 'show.json'), await answer.blob());
    setSaid(passphrase && !template ? 'Saved, with the passwords under the passphrase.' : 'Saved, without passwords.');
  };
  const choose = async (file: File) => {
    setStaged(undefined);
    setProblems([]);
    setSaid(undefined);
    const sending = uploadShow(file, setPart);
    setPart(0);
    setUpload(sending);
    const answer = await sending.done;
    setUpload(undefined);
    if (answer.ok) return setStaged(answer);
    setProblems(answer.problems ?? []);
    setSaid(answer.message);
  };
  return (
    <section aria-labelledby="file-title">
      <h2 id="file-title">Show file</h2>
      <p className="text-ink-soft">
        Everything of the show in one JSON file. Passwords go with it only under a passphrase of eight characters or
        more.
      </p>
      <form
        className="form"
        onSubmit={(event) => {
          event.preventDefault();
          void save(false);
        }}
      >
        <label>
          Passphrase for the passwords (optional)
          <input
            type="password"
            autoComplete="new-password"
            value={passphrase}
            maxLength={200}
            onChange={(e) => setPassphrase(e.target.value)}
          />
        </label>
        <div className="col-span-full flex flex-wrap gap-2.5">
          <Button type="submit" kind="strong">
            Save the show
          </Button>
          <Button onClick={() => void save(true)}>Save as a rig template, without addresses</Button>
        </div>
      </form>
      <div className="form">
        <FileDrop
          label="Show file to load"
          accept=".json,application/json"
          disabled={upload !== undefined}
          onFile={(file) => void choose(file)}
        />
        {upload && (
          <div className="col-span-full flex flex-wrap gap-2.5">
            <Progress label="Sent" part={part < 1 ? part : undefined} />
            <span>{part < 1 ? `${Math.round(part * 100)} % sent` : 'Reading and checking …'}</span>
            <Button onClick={upload.cancel}>Cancel</Button>
          </div>
        )}
        {staged && (
          <LoadReview
            key={staged.id}
            staged={staged}
            onDone={(text) => {
              setStaged(undefined);
              setSaid(text);
            }}
          />
        )}
      </div>
      <p role="status">{said}</p>
      {problems.length > 0 && (
        <ul className="border-l-4 border-fault pl-2.5 text-[14px] [&_code]:font-bold" role="alert">
          {problems.map(({ path, message }, n) => (
            <li key={n}>
              <code>{path}</code> {message}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

async function reasonOf(answer: Response | undefined): Promise<string> {
  const said = (await answer?.json().catch(() => undefined)) as { message?: string } | undefined;
  return said?.message ?? 'Not saved: the desk is cut off from the program. Try again in a moment.';
}
