'use client';

import { useState, type FormEvent } from 'react';
import type { Problem } from '../../core/result';
import { useDesk } from '../desk';
import { Button } from '../parts';
import { ProblemList } from '../rig';

/** A driver document from a file or as text. Nothing of it is installed while it has a mistake; what was typed stays. */
export function InstallDriver({ onDone }: { readonly onDone: () => void }) {
  const desk = useDesk();
  const [text, setText] = useState('');
  const [problems, setProblems] = useState<readonly Problem[]>([]);
  const [message, setMessage] = useState('');
  const [isOlder, setOlder] = useState(false);
  const install = async (older: boolean) => {
    const answer = await desk.installDriver(text, older);
    setOlder(!answer.ok && answer.code === 'older-driver');
    setProblems(answer.ok ? [] : (answer.problems ?? []));
    setMessage(answer.ok ? '' : answer.message);
    if (answer.ok) onDone();
  };
  return (
    <form
      className="form install"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        void install(false);
      }}
      aria-label="Install a driver"
    >
      <label>
        From a file
        <input
          type="file"
          accept="application/json,.json"
          onChange={(event) => void event.target.files?.[0]?.text().then(setText)}
        />
      </label>
      <label>
        Driver document (JSON; the reference is docs/drivers.md)
        <textarea
          className="mono"
          rows={14}
          required
          spellCheck={false}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      {message && (
        <p className="form-error" role="alert">
          {message}
        </p>
      )}
      <ProblemList problems={problems} />
      <div className="form-acts">
        <Button type="submit" kind="strong">
          Check and install
        </Button>
        {isOlder && <Button onClick={() => void install(true)}>Replace it with the older version</Button>}
        <Button onClick={onDone}>Close</Button>
      </div>
    </form>
  );
}
