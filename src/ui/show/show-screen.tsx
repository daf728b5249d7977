'use client';

import Link from 'next/link';
import { useShow } from '../desk';
import { AddressPart } from './address-part';
import { BackupPart } from './backup-part';
import { FilePart } from './file-part';

/** The show as a whole: kept as a file, brought back from a backup; and the addresses under which others reach this program. */
export function ShowScreen() {
  const { show } = useShow();
  const name = show?.records.find((record) => record.kind === 'show')?.data.name;
  return (
    <section className="screen" aria-labelledby="show-title">
      <div className="screen-head">
        <h1 id="show-title">Show and network</h1>
        <p className="muted">{name}</p>
        <Link className="btn btn-plain head-end" href="/rig">
          Back to the rig
        </Link>
      </div>
      <div className="show-parts">
        <FilePart />
        <BackupPart />
        <AddressPart />
      </div>
    </section>
  );
}
