'use client';

import { Chart, LinearScale, LineElement, PointElement } from 'chart.js';
import { Line } from 'react-chartjs-2';
import { chartInks, usualLine } from './chart-parts';

Chart.register(LinearScale, LineElement, PointElement);

interface Props {
  readonly name: string;
  /** Half of the answers of each span within so many milliseconds; null without answers. The newest last. */
  readonly values: readonly (number | null)[];
  readonly usual: number | undefined;
}

const spans = 60;

/** The answers of the last ten minutes, so small that only their course is seen; the broken line is what is usual. */
export default function SparkLine({ name, values, usual }: Props) {
  const { ink, soft } = chartInks();
  const first = spans - values.length;
  const most = values.reduce<number>((a, b) => Math.max(a, b ?? 0), usual ?? 0);
  return (
    <Line
      aria-label={`Answers of ${name} in the last ten minutes`}
      data={{
        datasets: [
          {
            data: values.map((y, n) => ({ x: first + n, y: y as number })),
            borderColor: ink,
            borderWidth: 1.5,
            pointRadius: 0,
            spanGaps: false,
          },
          usualLine(usual, 0, spans - 1, soft),
        ],
      }}
      options={{
        animation: false,
        maintainAspectRatio: false,
        events: [],
        scales: {
          x: { type: 'linear', display: false, min: 0, max: spans - 1 },
          y: { display: false, min: 0, suggestedMax: most * 1.15 || 1 },
        },
        plugins: { legend: { display: false }, tooltip: { enabled: false } },
      }}
    />
  );
}
