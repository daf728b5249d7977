'use client';

import { BarController, BarElement, CategoryScale, Chart, LinearScale, LogarithmicScale, PointElement } from 'chart.js';
import { Bar } from 'react-chartjs-2';
import { durationText } from '../parts';

Chart.register(BarController, BarElement, CategoryScale, LinearScale, LogarithmicScale, PointElement);

interface Row {
  readonly tag: string;
  readonly low: number;
  readonly half: number;
  readonly high: number;
}

const least = 0.1;

/** How the round trips of each device are spread: nine of ten lie within its bar, half of them left of the mark. */
export default function SpreadChart({ rows }: { readonly rows: readonly Row[] }) {
  const style = getComputedStyle(document.documentElement);
  const ink = style.getPropertyValue('--ink') || '#888';
  const soft = style.getPropertyValue('--ink-soft') || '#888';
  const rule = style.getPropertyValue('--rule') || '#444';
  const at = (ms: number) => Math.max(least, ms);
  return (
    <div className="relative" style={{ height: rows.length * 26 + 40 }}>
      <Bar
        aria-label={`Round trips of ${rows.length} devices`}
        data={{
          labels: rows.map(({ tag }) => tag),
          datasets: [
            {
              data: rows.map(({ low, high }): [number, number] => [at(low), Math.max(at(low) * 1.05, at(high))]),
              backgroundColor: soft,
              barThickness: 10,
              grouped: false,
            },
            {
              data: rows.map(({ half }): [number, number] => [at(half) * 0.985, at(half) * 1.015]),
              backgroundColor: ink,
              barThickness: 20,
              grouped: false,
            },
          ],
        }}
        options={{
          indexAxis: 'y',
          animation: false,
          maintainAspectRatio: false,
          events: [],
          scales: {
            x: {
              type: 'logarithmic',
              min: least,
              ticks: {
                color: ink,
                maxRotation: 0,
                callback: (ms) => (/^(0\.)?0*[125]/.test(String(ms)) ? durationText(Number(ms)) : ''),
              },
              grid: { color: rule },
            },
            y: { ticks: { color: ink }, grid: { display: false } },
          },
          plugins: { legend: { display: false }, tooltip: { enabled: false } },
        }}
      />
    </div>
  );
}
