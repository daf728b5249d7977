'use client';

import Link from 'next/link';
import { useShow } from '../desk';
import { AddressPart } from './address-part';
import { BackupPart } from './backup-part';
import { FilePart } from './file-part';
import { NamePart } from './name-part';
import { buttonClass } from '../kit';
import { StandinsPart } from './standins-part';

/** The show as a whole: kept as a file, brought back from a backup; and the addresses under which others reach this program. */
export function ShowScreen() {
  const { show } = useShow();
  const record = show?.records.find((each) => each.kind === 'show');
  return (
    <section
      className="flex min-h-full flex-col px-4 pt-3.5 pb-3 [&>.live-page]:h-auto [&>.live-page]:flex-1"
      aria-labelledby="show-title"
    >
      <div className="mb-2.5 flex min-h-9.5 flex-wrap items-center gap-x-3.5 gap-y-2">
        <h1 id="show-title">Show and network</h1>
        <p className="text-ink-soft">{record?.data.name}</p>
        <Link className={buttonClass({ className: 'ml-auto' })} href="/rig">
          Back to the rig
        </Link>
      </div>
      <div className="grid grid-cols-[repeat(auto-fit,minmax(330px,1fr))] gap-x-11 gap-y-7 border-t border-rule-strong pt-3 [&_section]:flex [&_section]:flex-col [&_section]:gap-3">
        {record && <NamePart show={record} />}
        <FilePart />
        <BackupPart />
        <AddressPart />
        <StandinsPart />
      </div>
    </section>
  );
}
