'use client';

import { Copy } from 'lucide-react';
import Link from 'next/link';
import { useState } from 'react';
import { addressesOf, type Addressed } from '../../core/inlet';
import type { ShowRecord } from '../../core/show';
import { Fold, IconButton, tellDone, tellRefused } from '../kit';
import { VeiledText } from '../parts';
import { LearnedPart } from './learned-part';

interface Props {
  readonly records: readonly ShowRecord[];
  readonly of: Addressed;
}

/** How other programs ask for this, over each inlet, to be copied; and what was learned for it. */
export function OutsidePart({ records, of }: Props) {
  const [here] = useState(() => (typeof location === 'undefined' ? '' : location.hostname));
  const addresses = addressesOf(records, of, here === 'localhost' ? '127.0.0.1' : here);
  return (
    <Fold name="From outside">
      {addresses.length === 0 ? (
        <p className="text-[14px] text-ink-soft">
          Other programs can do this through an inlet. There is none yet: <Link href="/inlets">add an inlet</Link>.
        </p>
      ) : (
        <ul className="grid gap-1.5">
          {addresses.map(({ inlet, text }) => (
            <li key={inlet.id} className="flex items-center gap-1.5">
              <span className="grid min-w-0 flex-1">
                <span className="truncate text-[13px] text-ink-soft">
                  {inlet.data.name}
                  {!inlet.data.on && ', off'}
                  {inlet.data.speaks === 'http' && (inlet.data.callers ?? []).length > 0 && ', with a token'}
                </span>
                <code className="font-mono text-[13px] break-all">
                  <VeiledText text={text} />
                </code>
              </span>
              <IconButton label={`Copy the address for ${inlet.data.name}`} onClick={() => void copy(text)}>
                <Copy size={16} aria-hidden />
              </IconButton>
            </li>
          ))}
        </ul>
      )}
      {(of.kind === 'control' || of.kind === 'macro') && addresses.length > 0 && (
        <LearnedPart records={records} learner={of} />
      )}
    </Fold>
  );
}

/** On plain HTTP a browser has no clipboard: then the address can be marked and copied by hand. */
async function copy(text: string): Promise<void> {
  try {
    await navigator.clipboard.writeText(text);
    tellDone('Address copied.', 'address');
  } catch {
    tellRefused('This browser allows no copying here. Select the address and copy it.', 'address');
  }
}
