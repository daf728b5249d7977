'use client';

import { useQueryClient } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { useDesk, type ListenView } from '../desk';
import { Button, FileDrop } from '../kit';

interface Props {
  readonly certificate: ListenView['certificate'];
}

const makers = {
  program: 'The certificate is made by this program: a browser asks once whether to trust it, and shows',
  environment: 'The certificate is that of TLS_CERT in the environment; a browser shows',
  given: 'The certificate given here is used from the next start; a browser shows',
} as const;

/** Under which certificate others come in, and a way to give one's own. */
export function CertificatePart({ certificate }: Props) {
  const desk = useDesk();
  const queries = useQueryClient();
  const [giving, setGiving] = useState(false);
  const [wrong, setWrong] = useState<string>();
  const give = async (given?: { readonly cert: string; readonly key: string }) => {
    const done = await desk.giveCertificate(given);
    await queries.invalidateQueries({ queryKey: ['listen'] });
    setWrong(done.ok ? undefined : done.message);
    if (done.ok) setGiving(false);
  };
  return (
    <>
      <p className="col-span-full text-[13px] text-ink-soft">
        Other computers connect over TLS.{' '}
        {certificate && (
          <>
            {makers[certificate.madeBy]}{' '}
            <span className="font-mono text-[0.93em] wrap-anywhere">{certificate.fingerprint}</span>, good until{' '}
            {new Date(certificate.until).toLocaleDateString()}.
          </>
        )}
      </p>
      {certificate?.madeBy !== 'environment' && (
        <div className="col-span-full flex flex-wrap gap-2.5">
          <Button aria-expanded={giving} onClick={() => setGiving(!giving)}>
            Use your own certificate
          </Button>
          {certificate?.madeBy === 'given' && <Button onClick={() => void give()}>Remove it</Button>}
        </div>
      )}
      {giving && <GiveForm wrong={wrong} onGive={(given) => void give(given)} />}
    </>
  );
}

interface GiveProps {
  readonly wrong: string | undefined;
  readonly onGive: (given: { cert: string; key: string }) => void;
}

function GiveForm({ wrong, onGive }: GiveProps) {
  const [files, setFiles] = useState<{ readonly cert?: File; readonly key?: File }>({});
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (files.cert && files.key) onGive({ cert: await files.cert.text(), key: await files.key.text() });
  };
  return (
    <form className="form" onSubmit={(event) => void submit(event)}>
      <FileDrop label="Certificate with its chain (PEM)" onFile={(cert) => setFiles({ ...files, cert })}>
        {files.cert?.name}
      </FileDrop>
      <FileDrop label="Private key, without a passphrase (PEM)" onFile={(key) => setFiles({ ...files, key })}>
        {files.key?.name}
      </FileDrop>
      {wrong && (
        <p role="alert" className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">
          {wrong}
        </p>
      )}
      <p className="col-span-full text-[13px] text-ink-soft">
        The key stays on this computer, readable by its owner only.
      </p>
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button type="submit" disabled={!files.cert || !files.key}>
          Use it from the next start
        </Button>
      </div>
    </form>
  );
}
