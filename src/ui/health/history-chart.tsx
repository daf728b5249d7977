'use client';

import { Chart, LinearScale, LineElement, PointElement } from 'chart.js';
import { Line } from 'react-chartjs-2';
import type { AnswerSpan } from '../../core/health';
import { clockText, durationText } from '../parts';
import { chartInks, usualLine } from './chart-parts';

Chart.register(LinearScale, LineElement, PointElement);

interface Props {
  readonly label: string;
  readonly spans: readonly AnswerSpan[];
  readonly usual: number | undefined;
}

/** The answers of a device over time: half of them within, the longest, and what is usual. */
export default function HistoryChart({ label, spans, usual }: Props) {
  const { ink, soft, rule } = chartInks();
  const first = spans[0]?.at ?? 0;
  const last = spans.at(-1)?.at ?? 0;
  const line = (of: 'half' | 'longest') => spans.map((span) => ({ x: span.at, y: (span[of] ?? null) as number }));
  return (
    <Line
      aria-label={label}
      data={{
        datasets: [
          { data: line('half'), borderColor: ink, borderWidth: 2, pointRadius: spans.length < 3 ? 3 : 0 },
          { data: line('longest'), borderColor: soft, borderWidth: 1, pointRadius: spans.length < 3 ? 2 : 0 },
          usualLine(usual, first, last, soft),
        ],
      }}
      options={{
        animation: false,
        maintainAspectRatio: false,
        events: [],
        scales: {
          x: {
            type: 'linear',
            min: first,
            max: last,
            ticks: {
              color: ink,
              maxTicksLimit: 4,
              maxRotation: 0,
              callback: (at) => clockText(Number(at), false).slice(0, 5),
            },
            grid: { display: false },
          },
          y: {
            min: 0,
            ticks: { color: ink, maxTicksLimit: 4, callback: (ms) => (ms === 0 ? '0' : durationText(Number(ms))) },
            grid: { color: rule },
          },
        },
        plugins: { legend: { display: false }, tooltip: { enabled: false } },
      }}
    />
  );
}
