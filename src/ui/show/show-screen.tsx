'use client';

import Link from 'next/link';
import { useShow } from '../desk';
import { AddressPart } from './address-part';
import { BackupPart } from './backup-part';
import { FilePart } from './file-part';
import { NamePart } from './name-part';
import { StandinsPart } from './standins-part';

/** The show as a whole: kept as a file, brought back from a backup; and the addresses under which others reach this program. */
export function ShowScreen() {
  const { show } = useShow();
  const record = show?.records.find((each) => each.kind === 'show');
  return (
    <section className="screen" aria-labelledby="show-title">
      <div className="screen-head">
        <h1 id="show-title">Show and network</h1>
        <p className="muted">{record?.data.name}</p>
        <Link className="btn btn-plain head-end" href="/rig">
          Back to the rig
        </Link>
      </div>
      <div className="show-parts">
        {record && <NamePart show={record} />}
        <FilePart />
        <BackupPart />
        <AddressPart />
        <StandinsPart />
      </div>
    </section>
  );
}
