'use client';

import type { ReactNode } from 'react';
import type { FaultAccount } from '../../core/drill';
import { drillFaultWords } from '../../core/show';
import { tableClass } from '../kit';
import { durationText, VeiledText } from '../parts';

interface Props {
  readonly label: string;
  readonly faults: readonly FaultAccount[];
  /** What can be done with a fault that goes on, by its place. */
  readonly acts?: (fault: FaultAccount, n: number) => ReactNode;
}

/** The faults of a drill with the time from each being caused until it was noticed, named, seen and mended. */
export const FaultTable = ({ label, faults, acts }: Props) => (
  <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={label}>
    <table className={`${tableClass} tabular-nums`}>
      <thead>
        <tr>
          <th scope="col">Fault</th>
          <th scope="col">At</th>
          <th scope="col">Noticed by the program</th>
          <th scope="col">Named</th>
          <th scope="col">Seen by the crew</th>
          <th scope="col">Mended</th>
          {acts && <th scope="col">Acts</th>}
        </tr>
      </thead>
      <tbody>
        {faults.map((fault, n) => (
          <tr key={n}>
            <th scope="row" className="font-semibold!">
              {drillFaultWords[fault.fault]}
              {fault.fault !== 'engine' && <span className="font-normal">: {fault.name}</span>}
              {fault.failed !== undefined && <span className="block font-normal">{fault.failed}</span>}
            </th>
            <td className="text-ink-soft">
              {fault.causedAt === undefined ? `in ${fault.afterSeconds} s` : `${fault.afterSeconds} s`}
            </td>
            <Cell ms={fault.noticedMs} by={fault.noticedBy} />
            <Cell ms={fault.namedMs} by={fault.namedAs} />
            <Cell ms={fault.seenMs} by={fault.seenBy} />
            <Cell ms={fault.failed === undefined ? fault.mendedMs : undefined} />
            {acts && <td>{acts(fault, n)}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  </div>
);

const Cell = ({ ms, by }: { readonly ms: number | undefined; readonly by?: string | undefined }) => (
  <td>
    {ms === undefined ? '–' : durationText(ms)}
    {ms !== undefined && by !== undefined && (
      <span className="block text-[13px] text-ink-soft">
        <VeiledText text={by} />
      </span>
    )}
  </td>
);
