'use client';

import { useRef, useState, type FormEvent } from 'react';
import type { Problem } from '../../core/result';
import { useDesk } from '../desk';
import { Button } from '../parts';

/** Saves the show as a file, and loads one. */
export function FilePart() {
  const desk = useDesk();
  const [passphrase, setPassphrase] = useState('');
  const [opening, setOpening] = useState('');
  const [problems, setProblems] = useState<readonly Problem[]>([]);
  const [said, setSaid] = useState<string>();
  const [file, setFile] = useState<File>();
  const input = useRef<HTMLInputElement>(null);
  const save = async (template: boolean) => {
    setProblems([]);
    const saved = await desk.saveShow(template ? '' : passphrase, template);
    if (!saved.ok) return setSaid(saved.message);
    download(template ? saved.name.replace(/\.json$/, '-template.json') : saved.name, saved.text);
    setSaid(passphrase && !template ? 'Saved, with the passwords under the passphrase.' : 'Saved, without passwords.');
  };
  const load = async (event: FormEvent) => {
    event.preventDefault();
    if (!file) return;
    const result = await desk.loadShow(await file.text(), opening);
    setProblems(result.ok ? [] : (result.problems ?? []));
    setSaid(result.ok ? result.said : result.message);
    if (result.ok && input.current) input.current.value = '';
  };
  return (
    <section aria-labelledby="file-title">
      <h2 id="file-title">Show file</h2>
      <p className="muted">
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
          Passphrase for the passwords (may be left out)
          <input
            type="password"
            autoComplete="new-password"
            value={passphrase}
            maxLength={200}
            onChange={(e) => setPassphrase(e.target.value)}
          />
        </label>
        <div className="form-acts">
          <Button type="submit" kind="strong">
            Save the show
          </Button>
          <Button onClick={() => void save(true)}>Save as a rig template, without addresses</Button>
        </div>
      </form>
      <form className="form" onSubmit={(event) => void load(event)}>
        <label>
          Show file to load
          <input
            ref={input}
            type="file"
            accept=".json,application/json"
            onChange={(e) => setFile(e.target.files?.[0] ?? undefined)}
          />
        </label>
        <label>
          Its passphrase, where it has passwords
          <input
            type="password"
            autoComplete="off"
            value={opening}
            maxLength={200}
            onChange={(e) => setOpening(e.target.value)}
          />
        </label>
        <div className="form-acts">
          <Button type="submit" disabled={!file}>
            Load it in place of this show
          </Button>
        </div>
      </form>
      <p role="status">{said}</p>
      {problems.length > 0 && (
        <ul className="problems" role="alert">
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

function download(name: string, text: string): void {
  const url = URL.createObjectURL(new Blob([text], { type: 'application/json' }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
