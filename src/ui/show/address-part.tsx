'use client';

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import type { Network } from '../../core/diagnosis';
import { isLinkLocal } from '../../core/net';
import { useDesk, type ListenView } from '../desk';
import { useNetwork } from '../rig';
import { QrCode } from '../parts';
import { Button, Select } from '../kit';
import { CertificatePart } from './certificate-part';

/** The addresses of this computer, which of them others can reach, and on which the program listens. */
export function AddressPart() {
  const desk = useDesk();
  const network = useNetwork();
  const listen = useQuery({ queryKey: ['listen'], queryFn: async () => (await desk.listen()) ?? null }).data;
  const [copied, setCopied] = useState<string>();
  const all = listen?.host === '0.0.0.0' || listen?.host === '::';
  const rows = (network?.interfaces ?? []).filter(({ address }) => !isLinkLocal(address));
  const copy = async (url: string) => {
    try {
      await navigator.clipboard.writeText(url);
      setCopied(url);
    } catch {
      // Browsers refuse the clipboard over plain HTTP; the text can be marked and copied.
      setCopied(undefined);
    }
  };
  return (
    <section aria-labelledby="addresses-title">
      <h2 id="addresses-title">Addresses to hand out</h2>
      <ul className="[&_[data-slot=button]]:ml-auto [&_li]:flex [&_li]:flex-wrap [&_li]:items-center [&_li]:gap-x-3.5 [&_li]:gap-y-1 [&_li]:border-b [&_li]:border-rule [&_li]:px-0 [&_li]:py-1.25">
        {rows.map(({ name, address, prefix, internal }) => {
          const reached =
            listen && (all || listen.host === address || (address === '127.0.0.1' && listen.host === '127.0.0.1'));
          const url = `${internal ? 'http' : 'https'}://${address.includes(':') ? `[${address}]` : address}:${listen?.port ?? ''}/`;
          return (
            <li key={`${name} ${address}`} className={reached ? '' : 'text-ink-soft'}>
              <span className="font-mono text-[0.93em]" data-veil>
                {reached ? url : `${address}/${prefix}`}
              </span>
              <span className="text-ink-soft">
                {name};{' '}
                {internal ? 'this computer only' : reached ? 'others can reach it' : 'the program does not listen here'}
              </span>
              {reached && <Button onClick={() => void copy(url)}>{copied === url ? 'Copied' : 'Copy'}</Button>}
              {reached && !internal && <QrCode text={`${url}panel`} />}
            </li>
          );
        })}
      </ul>
      <CertificatePart certificate={listen?.certificate} />
      {network && listen && <ListenForm key={listen.chosen?.host ?? ''} network={network} listen={listen} />}
    </section>
  );
}

function ListenForm({ network, listen }: { readonly network: Network; readonly listen: ListenView }) {
  const desk = useDesk();
  const queries = useQueryClient();
  const { fixed, hasKey } = listen;
  const [host, setHost] = useState(listen.chosen?.host ?? listen.host);
  const [key, setKey] = useState('');
  const [asked, setAsked] = useState(false);
  const deletesKey = host === '127.0.0.1' && hasKey;
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (deletesKey && !asked) return setAsked(true);
    setAsked(false);
    if (await desk.chooseListen(host, key)) await queries.invalidateQueries({ queryKey: ['listen'] });
  };
  const known = network.interfaces.filter(({ internal, address }) => !internal && !isLinkLocal(address));
  if (fixed) return <p className="text-ink-soft">HOST in the environment decides where the program listens.</p>;
  return (
    <form className="form" onSubmit={(event) => void submit(event)}>
      <Select
        label="Listen, from the next start, on"
        value={host}
        options={[
          { value: '127.0.0.1', title: 'this computer only' },
          { value: '0.0.0.0', title: 'every address of this computer' },
          ...known.map(({ name, address }) => ({ value: address, title: `${name}: ${address}` })),
          ...(['127.0.0.1', '0.0.0.0', ...known.map(({ address }) => address)].includes(host)
            ? []
            : [{ value: host, title: `${host}, which this computer does not have now` }]),
        ]}
        onChoose={(to) => {
          setHost(to);
          setAsked(false);
        }}
      />
      {host !== '127.0.0.1' && (
        <label>
          {hasKey
            ? 'New access key, 12 characters or more; empty keeps the present one'
            : 'Access key, 12 characters or more: browsers ask for it as the password'}
          <input
            type="password"
            autoComplete="new-password"
            minLength={12}
            required={!hasKey}
            value={key}
            onChange={(e) => setKey(e.target.value)}
          />
        </label>
      )}
      <div className="col-span-full flex flex-wrap gap-2.5">
        {asked && (
          <span role="alert">
            This deletes the access key. Other computers and their screens have to be given a new one later.
          </span>
        )}
        <Button type="submit">{asked ? 'Delete the key and save' : 'Save'}</Button>
        {asked && <Button onClick={() => setAsked(false)}>Cancel</Button>}
      </div>
    </form>
  );
}
