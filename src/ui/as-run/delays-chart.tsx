'use client';

import { useQuery } from '@tanstack/react-query';
import {
  Chart,
  Legend,
  LinearScale,
  LogarithmicScale,
  PointElement,
  Tooltip,
  type ChartDataset,
  type TooltipItem,
} from 'chart.js';
import { Scatter } from 'react-chartjs-2';
import { filterQuery, type AsRunFilter, type Delay, type DelaySummary } from '../../core/live';
import { clockText, durationText } from '../parts';

Chart.register(LinearScale, LogarithmicScale, PointElement, Tooltip, Legend);

interface Delays {
  readonly delays: readonly Delay[];
  readonly summary: readonly DelaySummary[];
}

/** Told apart by shape, not by colour: colour belongs to state. */
const shapes = [
  'circle',
  'rect',
  'triangle',
  'rectRot',
  'cross',
  'star',
  'line',
  'dash',
  'crossRot',
  'rectRounded',
] as const;

/** How long the newest sends took until the device had confirmed them, over time and by device. */
export default function DelaysChart({ filter }: { readonly filter: AsRunFilter }) {
  const query = useQuery({
    queryKey: ['delays', filter],
    queryFn: async ({ signal }): Promise<Delays> => {
      const answer = await fetch(`/desk/as-run/delays?${filterQuery(filter)}`, { signal });
      if (!answer.ok) throw new Error('The record could not be read. The desk may be starting; try again.');
      return (await answer.json()) as Delays;
    },
    refetchInterval: 5000,
  });
  if (query.error) return <p className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">{query.error.message}</p>;
  if (!query.data) return <p className="text-ink-soft">Looking through the record …</p>;
  const { delays, summary } = query.data;
  if (delays.length === 0) return <p className="text-ink-soft">No matching command has been confirmed yet.</p>;
  const ink = getComputedStyle(document.documentElement).getPropertyValue('--ink') || '#888';
  const soft = getComputedStyle(document.documentElement).getPropertyValue('--rule-strong') || '#888';
  const datasets = summary.map(({ device }, n): ChartDataset<'scatter', { x: number; y: number; delay: Delay }[]> => ({
    label: device,
    data: delays
      .filter((delay) => delay.device === device)
      .map((delay) => ({ x: delay.at, y: Math.max(0.1, delay.ms), delay })),
    pointStyle: shapes[n % shapes.length],
    pointRadius: 5,
    borderColor: ink,
    backgroundColor: 'transparent',
  }));
  return (
    <div className="grid grid-cols-[minmax(0,2fr)_minmax(320px,1fr)] gap-6 pb-3">
      <div className="relative h-60">
        <Scatter
          aria-label={`Delays of ${delays.length} sends over time`}
          data={{ datasets }}
          options={{
            animation: false,
            maintainAspectRatio: false,
            scales: {
              x: {
                type: 'linear',
                ticks: { color: ink, callback: (value) => clockText(Number(value)) },
                grid: { color: soft },
              },
              y: {
                type: 'logarithmic',
                ticks: { color: ink, callback: (value) => durationText(Number(value)) },
                grid: { color: soft },
              },
            },
            plugins: {
              legend: { labels: { color: ink, usePointStyle: true } },
              tooltip: {
                callbacks: {
                  label: ({ raw }: TooltipItem<'scatter'>) => {
                    const { delay } = raw as { delay: Delay };
                    return `${delay.device} ${delay.command}: ${durationText(delay.ms)}${delay.late ? ', late' : ''}`;
                  },
                },
              },
            },
          }}
        />
      </div>
      <table className="border-collapse self-start tabular-nums [&_:is(th,td)]:border-b [&_:is(th,td)]:border-rule [&_:is(th,td)]:py-1 [&_:is(th,td)]:pr-2.5 [&_:is(th,td)]:pl-0 [&_:is(th,td)]:text-left">
        <thead>
          <tr>
            <th scope="col">Device</th>
            <th scope="col">Sends</th>
            <th scope="col">half within</th>
            <th scope="col">95 % within</th>
            <th scope="col">longest</th>
            <th scope="col">late</th>
          </tr>
        </thead>
        <tbody>
          {summary.map(({ device, count, p50, p95, most, late }) => (
            <tr key={device}>
              <th scope="row" className="font-mono text-[0.93em] font-semibold">
                {device}
              </th>
              <td>{count}</td>
              <td>{durationText(p50)}</td>
              <td>{durationText(p95)}</td>
              <td>{durationText(most)}</td>
              <td>{late}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
