'use client';

import type { CheckReport } from '../../core/line-check';
import { drillFaultWords } from '../../core/show';
import { clockText, durationText } from '../parts';

const timeText = (ms: number | undefined): string => (ms === undefined ? 'not' : durationText(ms));

/** The fault drills that were run, each fault with its times. */
export const ReportDrills = ({ drills }: { readonly drills: NonNullable<CheckReport['drills']> }) => (
  <section aria-label="Fault drills">
    <h2>Fault drills</h2>
    <table aria-label="Fault drills">
      <thead>
        <tr>
          <th scope="col">Drill</th>
          <th scope="col">Fault</th>
          <th scope="col">Noticed</th>
          <th scope="col">Named</th>
          <th scope="col">Seen by the crew</th>
          <th scope="col">Mended</th>
        </tr>
      </thead>
      <tbody>
        {drills.flatMap(({ name, startedAt, faults }) =>
          faults.map((fault, n) => (
            <tr key={`${startedAt} ${n}`}>
              <td>
                {n === 0 && `${name}, ${new Date(startedAt).toLocaleDateString()} ${clockText(startedAt, false)}`}
              </td>
              <th scope="row">
                {drillFaultWords[fault.fault]}
                {fault.fault !== 'engine' && `: ${fault.name}`}
              </th>
              <td>{timeText(fault.noticedMs)}</td>
              <td>{timeText(fault.namedMs)}</td>
              <td>{fault.seenMs === undefined ? 'not' : `${durationText(fault.seenMs)}, ${fault.seenBy ?? ''}`}</td>
              <td>{timeText(fault.mendedMs)}</td>
            </tr>
          )),
        )}
      </tbody>
    </table>
  </section>
);
