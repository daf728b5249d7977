'use client';

import { useState } from 'react';
import type { LoadedAddresses, StagedShow } from '../../core/show';
import { useDesk } from '../desk';
import { Button, tableClass } from '../kit';
import { ChangeSummary } from '../parts';

interface Props {
  readonly staged: StagedShow;
  readonly onDone: (said: string) => void;
}

/** What loading a show would change, before anything is replaced, and whose addresses count. */
export function LoadReview({ staged, onDone }: Props) {
  const desk = useDesk();
  const { addresses: differ, drivers } = staged;
  const [addresses, setAddresses] = useState<LoadedAddresses>('rig');
  const [passphrase, setPassphrase] = useState('');
  const [busy, setBusy] = useState(false);
  const [refused, setRefused] = useState<string>();
  const load = async () => {
    setBusy(true);
    const result = await desk.loadShow(staged.id, passphrase, addresses);
    setBusy(false);
    if (result.ok) onDone(result.said);
    else setRefused(result.message);
  };
  const { kinds } = staged.summary[addresses];
  return (
    <section className="load-review" aria-label={`Load ${staged.name}`}>
      <h3>
        “{staged.name}”{staged.savedAt && `, saved ${new Date(staged.savedAt).toLocaleString()}`}
      </h3>
      {differ.length > 0 && (
        <fieldset>
          <legend>
            {differ.length === 1 ? '1 device has' : `${differ.length} devices have`} another address in the file
          </legend>
          <label className="col-span-full flex flex-row items-center gap-2">
            <input type="radio" checked={addresses === 'rig'} onChange={() => setAddresses('rig')} />
            Keep the addresses of this rig
          </label>
          <label className="col-span-full flex flex-row items-center gap-2">
            <input type="radio" checked={addresses === 'file'} onChange={() => setAddresses('file')} />
            Use the addresses of the file
          </label>
          <table className={tableClass} aria-label="Addresses that differ">
            <thead>
              <tr>
                <th scope="col">Device</th>
                <th scope="col">This rig</th>
                <th scope="col">The file</th>
              </tr>
            </thead>
            <tbody>
              {differ.map(({ tag, rig, file }) => (
                <tr key={tag}>
                  <th scope="row">
                    <span className="font-mono text-[0.93em] font-semibold">{tag}</span>
                  </th>
                  <td className="font-mono text-[0.93em]">{rig}</td>
                  <td className="font-mono text-[0.93em]">{file}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </fieldset>
      )}
      <ChangeSummary summary={{ kinds, addresses: [] }} />
      {staged.pictures > 0 && <p className="text-ink-soft">With {staged.pictures} pictures.</p>}
      {drivers.installed.length > 0 && <p>Installs the drivers {drivers.installed.join(', ')}.</p>}
      {drivers.newerHere.length > 0 && (
        <p>A newer version is installed here and stays: {drivers.newerHere.join(', ')}.</p>
      )}
      {staged.hasPasswords && (
        <label>
          Passphrase for its passwords; without it they are left out
          <input
            type="password"
            autoComplete="off"
            value={passphrase}
            maxLength={200}
            onChange={(event) => setPassphrase(event.target.value)}
          />
        </label>
      )}
      {refused && (
        <p role="alert" className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">
          {refused}
        </p>
      )}
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button kind="strong" disabled={busy} onClick={() => void load()}>
          {busy ? 'Loading …' : 'Replace this show'}
        </Button>
        <Button disabled={busy} onClick={() => onDone('Cancelled. Nothing was loaded.')}>
          Cancel
        </Button>
      </div>
    </section>
  );
}
