'use client';

import dynamic from 'next/dynamic';
import { X } from 'lucide-react';
import { useMemo, useState, type FormEvent } from 'react';
import { schemaAt } from '../../core/driver';
import type { Problem } from '../../core/result';
import { useDesk } from '../desk';
import { Button, FileDrop, tellDone } from '../kit';

import { ProblemList } from '../rig';

const DriverText = dynamic(() => import('./driver-text'), {
  ssr: false,
  loading: () => <p className="p-3 text-ink-soft">Fetching the editor …</p>,
});

interface Props {
  /** What the form is called: a document is installed, or one that is there is opened. */
  readonly title: string;
  readonly text: string;
  readonly onText: (text: string) => void;
  /** The document that is installed under this name, where one was opened. */
  readonly installed?: string;
  readonly onDone: () => void;
}

/** A driver document in an editor, from a file or typed. Nothing of it is installed while it has a mistake; what was typed stays. */
export function InstallDriver({ title, text, onText, installed, onDone }: Props) {
  const desk = useDesk();
  const [problems, setProblems] = useState<readonly Problem[]>([]);
  const [message, setMessage] = useState('');
  const [isOlder, setOlder] = useState(false);
  const [isCompared, setCompared] = useState(false);
  const [place, setPlace] = useState<readonly (string | number)[]>([]);
  const install = async (older: boolean) => {
    const answer = await desk.installDriver(text, older);
    setOlder(!answer.ok && answer.code === 'older-driver');
    setProblems(answer.ok ? [] : (answer.problems ?? []));
    setMessage(answer.ok ? '' : answer.message);
    if (!answer.ok) return;
    tellDone('The driver is installed.', 'driver');
    onDone();
  };
  return (
    <form
      className="flex h-full min-h-0 flex-col gap-2 px-4 py-3"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        void install(false);
      }}
      aria-label={title}
    >
      <div className="flex items-center gap-3">
        <h2 className="min-w-0 flex-1 truncate text-[17px] font-semibold">{title}</h2>
        <Button type="submit" kind="strong">
          Check and install
        </Button>
        <Button kind="ghost" aria-label="Close document" onClick={onDone}>
          <X size={18} aria-hidden />
        </Button>
      </div>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <FileDrop
          label="From a file"
          accept="application/json,.json"
          onFile={(file) => void file.text().then(onText)}
        />
        {installed !== undefined && (
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={isCompared} onChange={(event) => setCompared(event.target.checked)} />
            Show changes against the installed version
          </label>
        )}
      </div>
      <div className="flex min-h-40 flex-1 flex-col font-mono text-[13px]">
        <DriverText
          text={text}
          {...(isCompared && installed ? { compared: installed } : {})}
          onText={onText}
          onPlace={setPlace}
        />
      </div>
      <Reference place={place} />
      {message && (
        <p className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink" role="alert">
          {message}
        </p>
      )}
      <ProblemList problems={problems} />
      {isOlder && (
        <Button className="self-start" onClick={() => void install(true)}>
          Replace it with the older version
        </Button>
      )}
    </form>
  );
}

/** What can stand where the caret is, from the schema. */
function Reference({ place }: { readonly place: readonly (string | number)[] }) {
  const { keys, values, what } = useMemo(() => schemaAt(place), [place]);
  return (
    <section
      aria-label="Reference"
      tabIndex={0}
      className="max-h-40 shrink-0 overflow-y-auto border-t border-rule pt-2 text-[13px]"
    >
      <p>
        <b className="font-mono text-[0.93em]">{place.length === 0 ? 'The whole document' : place.join('.')}</b>{' '}
        <span className="text-ink-soft">{values.length === 0 && what}</span>
      </p>
      {values.length > 0 && <p className="font-mono text-[0.93em] text-ink-soft">{values.join('  ')}</p>}
      <dl className="grid grid-cols-[max-content_1fr] gap-x-4">
        {keys.map((key) => (
          <div key={key.name} className="contents">
            <dt className={`font-mono text-[0.93em] ${key.isRequired ? 'font-semibold' : ''}`}>{key.name}</dt>
            <dd className="truncate text-ink-soft">
              {key.what}
              {key.isRequired && ', required'}
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
