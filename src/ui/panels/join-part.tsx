'use client';

import { useQuery } from '@tanstack/react-query';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import { isLinkLocal } from '../../core/net';
import { useDesk } from '../desk';
import { useLive, useNow, type Invited } from '../live';
import { QrCode } from '../parts';
import { useNetwork } from '../rig';
import { Button, Select } from '../kit';

interface Props {
  /** Id of the panel, or the one that stands for tally phones. */
  readonly panel: string;
  /** What follows the token in the address. */
  readonly query?: string;
  /** What the screen may do then. */
  readonly rights: string;
}

/** A way in for one screen: an address with a token that is good once, to be read with the screen's camera. */
export function JoinPart({ panel, query = '', rights }: Props) {
  const live = useLive();
  const now = useNow();
  const [invite, setInvite] = useState<Invited & { readonly until: number }>();
  const hosts = useHosts();
  const [chosen, setChosen] = useState<string>();
  useEffect(
    () =>
      live.onInvited((each) => {
        if (each.panel === panel) setInvite({ ...each, until: Date.now() + each.forMs });
      }),
    [live, panel],
  );
  const host = chosen ?? hosts?.[0];
  if (hosts?.length === 0)
    return (
      <p className="pt-3 pb-1.5">
        The program listens on this computer only, so that no other screen can come in. Choose an address under{' '}
        <Link href="/show">Show and network</Link>, then start the program again.
      </p>
    );
  const left = invite ? Math.max(0, Math.ceil((invite.until - (now || invite.until)) / 60_000)) : 0;
  const url = invite && host ? `https://${host}/join/${invite.token}${query}` : undefined;
  return (
    <div className="flex flex-wrap items-center gap-x-6 gap-y-3 pt-3 pb-1.5 [&_p]:max-w-[46ch]">
      {hosts && hosts.length > 1 && (
        <Select
          label="At the address"
          value={host}
          options={hosts.map((each) => ({ value: each, title: each }))}
          onChoose={setChosen}
        />
      )}
      <Button kind="strong" disabled={!host} onClick={() => live.invite(panel)}>
        {invite ? 'Make another' : 'Create invitation'}
      </Button>
      {url && (
        <>
          <QrCode text={url} />
          <p>
            Scan it with the camera of the screen that joins. It works once, for {left} more minute
            {left === 1 ? '' : 's'}. {rights}
          </p>
          <p className="join-url font-mono text-[0.93em] wrap-anywhere" data-veil>
            {url}
          </p>
        </>
      )}
    </div>
  );
}

/** Where other screens reach this computer, host and port; empty when they do not. */
function useHosts(): readonly string[] | undefined {
  const desk = useDesk();
  const network = useNetwork();
  const listen = useQuery({ queryKey: ['listen'], queryFn: async () => (await desk.listen()) ?? null }).data;
  if (!listen || !network) return undefined;
  const all = listen.host === '0.0.0.0' || listen.host === '::';
  return network.interfaces
    .filter(({ internal, address }) => !internal && !isLinkLocal(address) && (all || listen.host === address))
    .map(({ address }) => `${address.includes(':') ? `[${address}]` : address}:${listen.port}`);
}
