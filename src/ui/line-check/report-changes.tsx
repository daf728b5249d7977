'use client';

import { compareReports, type CheckReport, type Standing } from '../../core/line-check';
import { clockText } from '../parts';
import { kindWords, standingText } from '../proofs';

const wordOf = (standing: Standing | null): string => (standing === null ? 'not in the show' : standingText(standing));

/** What stands otherwise than in an earlier report. */
export function ReportChanges({ earlier, later }: { readonly earlier: CheckReport; readonly later: CheckReport }) {
  const [first, second] = earlier.at <= later.at ? [earlier, later] : [later, earlier];
  const changes = compareReports(first, second);
  const from = `${new Date(first.at).toLocaleDateString()}, ${clockText(first.at, false)}`;
  return (
    <section aria-label="Changes">
      <h2>Changes since {from}</h2>
      {changes.length === 0 ? (
        <p>Nothing differs.</p>
      ) : (
        <table aria-label="Changes">
          <thead>
            <tr>
              <th scope="col">Device</th>
              <th scope="col">Item</th>
              <th scope="col">Before</th>
              <th scope="col">After</th>
            </tr>
          </thead>
          <tbody>
            {changes.map(({ item, before, now }) => (
              <tr key={item.id}>
                <td>{item.devices[0] ?? ''}</td>
                <th scope="row">
                  {item.title} <span className="font-normal text-ink-soft">{kindWords[item.kind]}</span>
                </th>
                <td>{wordOf(before)}</td>
                <td>{wordOf(now)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
