'use client';

import { BarElement, CategoryScale, Chart, Legend, LinearScale, Tooltip } from 'chart.js';
import { Bar } from 'react-chartjs-2';

Chart.register(CategoryScale, LinearScale, BarElement, Tooltip, Legend);

interface Row {
  readonly label: string;
  readonly p50: number;
  readonly p95: number;
}

/** How late each step was over the last runs: half of them, and all but one in twenty. */
export default function StepChart({ rows }: { readonly rows: readonly Row[] }) {
  const style = getComputedStyle(document.documentElement);
  const ink = style.getPropertyValue('--ink') || '#888';
  const rule = style.getPropertyValue('--rule') || '#888';
  const soft = style.getPropertyValue('--rule-strong') || '#888';
  const axis = { ticks: { color: ink }, grid: { color: rule } };
  return (
    <div className="mt-3.5" style={{ height: 70 + rows.length * 34 }}>
      <Bar
        aria-label={`How late ${rows.length} steps were sent, in milliseconds`}
        role="img"
        data={{
          labels: rows.map(({ label }) => label),
          datasets: [
            { label: 'p50', data: rows.map(({ p50 }) => p50), backgroundColor: soft },
            {
              label: 'p95',
              data: rows.map(({ p95 }) => p95),
              backgroundColor: 'transparent',
              borderColor: ink,
              borderWidth: 1,
            },
          ],
        }}
        options={{
          indexAxis: 'y',
          animation: false,
          maintainAspectRatio: false,
          scales: {
            x: { ...axis, title: { display: true, text: 'ms after its time', color: ink }, beginAtZero: true },
            y: axis,
          },
          plugins: { legend: { labels: { color: ink } } },
        }}
      />
    </div>
  );
}
