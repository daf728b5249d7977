'use client';

import { useQuery } from '@tanstack/react-query';
import QRCode from 'qrcode';
import { useState, type FormEvent } from 'react';
import type { Network } from '../../core/diagnosis';
import { isLinkLocal } from '../../core/net';
import { useDesk } from '../desk';
import { useNetwork } from '../rig';
import { Button } from '../parts';

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
      <ul className="addresses">
        {rows.map(({ name, address, prefix, internal }) => {
          const reached =
            listen && (all || listen.host === address || (address === '127.0.0.1' && listen.host === '127.0.0.1'));
          const url = `http://${address.includes(':') ? `[${address}]` : address}:${listen?.port ?? ''}/`;
          return (
            <li key={`${name} ${address}`} className={reached ? '' : 'address-off'}>
              <span className="mono" data-veil>
                {reached ? url : `${address}/${prefix}`}
              </span>
              <span className="muted">
                {name};{' '}
                {internal ? 'this computer only' : reached ? 'others can reach it' : 'the program does not listen here'}
              </span>
              {reached && <Button onClick={() => void copy(url)}>{copied === url ? 'Copied' : 'Copy'}</Button>}
              {reached && !internal && <QrCode text={`${url}panel`} />}
            </li>
          );
        })}
      </ul>
      {network && <ListenForm network={network} fixed={listen?.fixed ?? false} />}
    </section>
  );
}

function ListenForm({ network, fixed }: { readonly network: Network; readonly fixed: boolean }) {
  const desk = useDesk();
  const [host, setHost] = useState('127.0.0.1');
  const [key, setKey] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void desk.chooseListen(host, key);
  };
  if (fixed) return <p className="muted">HOST in the environment decides where the program listens.</p>;
  return (
    <form className="form" onSubmit={submit}>
      <label>
        Listen, from the next start on, on
        <select value={host} onChange={(e) => setHost(e.target.value)}>
          <option value="127.0.0.1">this computer only</option>
          <option value="0.0.0.0">every address of this computer</option>
          {network.interfaces
            .filter(({ internal, address }) => !internal && !isLinkLocal(address))
            .map(({ name, address }) => (
              <option key={address} value={address}>
                {name}: {address}
              </option>
            ))}
        </select>
      </label>
      {host !== '127.0.0.1' && (
        <label>
          Access key, 12 characters or more: browsers ask for it as the password
          <input
            type="password"
            autoComplete="new-password"
            minLength={12}
            required
            value={key}
            onChange={(e) => setKey(e.target.value)}
          />
        </label>
      )}
      <div className="form-acts">
        <Button type="submit">Choose</Button>
      </div>
    </form>
  );
}

/** An address as a QR code (ISO/IEC 18004), to be read with a phone. */
function QrCode({ text }: { readonly text: string }) {
  const { modules } = QRCode.create(text, { errorCorrectionLevel: 'M' });
  const { size } = modules;
  let path = '';
  for (let y = 0; y < size; y += 1)
    for (let x = 0; x < size; x += 1) if (modules.get(y, x)) path += `M${x + 4} ${y + 4}h1v1h-1z`;
  return (
    <svg className="qr" viewBox={`0 0 ${size + 8} ${size + 8}`} role="img" aria-label={`QR code of ${text}`} data-veil>
      <rect width="100%" height="100%" fill="#fff" />
      <path d={path} fill="#000" />
    </svg>
  );
}
