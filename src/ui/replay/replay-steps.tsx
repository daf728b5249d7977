'use client';

import type { LeftStep, ReplayStepLine } from '../../core/live';
import { tableClass } from '../kit';
import { clockText, VeiledText } from '../parts';

interface Props {
  readonly steps: readonly ReplayStepLine[];
  readonly left: readonly LeftStep[];
}

/** The presses that were played, each with what differs from then. */
export const ReplaySteps = ({ steps, left }: Props) => (
  <div className="min-h-0 flex-1 overflow-auto" tabIndex={0} role="region" aria-label="Presses">
    <table className={tableClass}>
      <thead>
        <tr>
          <th scope="col">Time</th>
          <th scope="col">Press</th>
          <th scope="col">By</th>
          <th scope="col">Then</th>
          <th scope="col">Now</th>
          <th scope="col">Differences</th>
        </tr>
      </thead>
      <tbody>
        {steps.map(({ n, at, page, label, who, then, now, differences, unmatched }) => (
          <tr key={n}>
            <td className="text-ink-soft tabular-nums">{clockText(at)}</td>
            <th scope="row">
              <VeiledText text={`${page ? `${page} · ` : ''}${label}`} />
            </th>
            <td className="text-ink-soft">{who}</td>
            <td>{then}</td>
            <td className={differences.length > 0 ? 'font-semibold' : ''}>{now}</td>
            <td>
              {differences.map((each) => (
                <span key={each} className="block">
                  <VeiledText text={each} />
                </span>
              ))}
              {unmatched.length > 0 && (
                <span className="block text-ink-soft">Not compared: nothing stands in for {unmatched.join(', ')}.</span>
              )}
            </td>
          </tr>
        ))}
        {left.map(({ n, label, why }) => (
          <tr key={`left ${n}`} className="text-ink-soft">
            <td>–</td>
            <th scope="row">{label}</th>
            <td colSpan={3}>left out</td>
            <td>{why}</td>
          </tr>
        ))}
      </tbody>
    </table>
  </div>
);
