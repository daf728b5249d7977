'use client';

import { X } from 'lucide-react';
import { useState } from 'react';
import { z } from 'zod';
import type { InletData } from '../../core/show';
import { Button, ChipsInput, Field, IconButton, tellRefused } from '../kit';

interface Props {
  readonly data: InletData;
  readonly onData: (what: string, to: Partial<InletData>) => void;
}

const madeSchema = z.object({ token: z.string(), hash: z.string() });

/** Who may ask: callers with a token each, and over HTTP the web pages. */
export function CallerFields({ data, onData }: Props) {
  const { callers = [], origins = [] } = data;
  const [name, setName] = useState('');
  const [shown, setShown] = useState<{ readonly name: string; readonly token: string }>();
  const add = async () => {
    const made = madeSchema.safeParse(
      await fetch('/desk/token', { method: 'POST' })
        .then((answer) => answer.json() as Promise<unknown>)
        .catch(() => undefined),
    );
    if (!made.success) return tellRefused('No token could be made. Try again in a moment.', 'token');
    const { token, hash } = made.data;
    onData('Callers', { callers: [...callers, { name: name.trim(), hash }] });
    setShown({ name: name.trim(), token });
    setName('');
  };
  return (
    <>
      {callers.length > 0 && (
        <ul aria-label="Callers" className="grid gap-1">
          {callers.map((caller) => (
            <li key={caller.hash} className="flex items-center gap-2 border-b border-rule">
              <span className="min-w-0 flex-1 truncate">{caller.name}</span>
              <IconButton
                label={`Remove caller ${caller.name}`}
                onClick={() => onData('Callers', { callers: callers.filter(({ hash }) => hash !== caller.hash) })}
              >
                <X size={16} aria-hidden />
              </IconButton>
            </li>
          ))}
        </ul>
      )}
      {shown && (
        <div role="status" className="grid gap-1 border-l-4 border-warning pl-2.5">
          <p className="text-[14px]">
            Token of {shown.name}. It is shown only now: copy it to the other program, {tokenPlaces[data.speaks]}.
          </p>
          <code className="font-mono break-all select-all">{shown.token}</code>
          <span>
            <Button onClick={() => setShown(undefined)}>Hide the token</Button>
          </span>
        </div>
      )}
      <form
        className="grid gap-1.5"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim() !== '') void add();
        }}
      >
        <Field
          label="New caller"
          help={
            callers.length === 0
              ? 'While there is no caller, this computer needs no token, and other computers are refused.'
              : 'Each caller has a token of its own. Requests without one are refused.'
          }
        >
          {(ids) => (
            <input
              {...ids}
              placeholder="Score box"
              maxLength={40}
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
          )}
        </Field>
        <span>
          <Button type="submit" disabled={name.trim() === '' || callers.length >= 20}>
            Add caller
          </Button>
        </span>
      </form>
      {data.speaks === 'http' && <Origins origins={origins} onData={onData} />}
    </>
  );
}

const tokenPlaces: Readonly<Record<string, string>> = {
  http: 'as a header “Authorization: Bearer …”, or at the end of the address as ?token=…',
  mqtt: 'as its password; the user name does not matter',
};

const Origins = ({ origins, onData }: Pick<Props, 'onData'> & { readonly origins: readonly string[] }) => (
  <ChipsInput
    label="Web pages that may ask from a browser"
    help="By origin, such as https://scores.example. All other pages are refused."
    placeholder="https://scores.example"
    most={20}
    values={origins}
    onChange={(list) =>
      onData('Web pages', { origins: list.filter((each) => /^https?:\/\/[^\s/]{1,120}$/.test(each)) })
    }
  />
);
