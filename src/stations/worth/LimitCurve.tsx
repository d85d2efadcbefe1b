'use client';
import { Chart, Filler, LinearScale, LineElement, PointElement, ScatterController, LineController } from 'chart.js';
import { useEffect, useState } from 'react';
import { Chart as ChartView } from 'react-chartjs-2';
import type { Worth } from '@/core/worth';
import { formatNumber, formatRate, formatYears } from '@/words';

Chart.register(LinearScale, PointElement, LineElement, LineController, ScatterController, Filler);

type Props = { worth: Worth; ageYears: number; quote: number; currency: string };

const readColours = () => {
  const style = getComputedStyle(document.documentElement);
  const colour = (name: string) => style.getPropertyValue(name).trim();
  return {
    ink: colour('--ink'),
    soft: colour('--soft'),
    line: colour('--line'),
    mark: colour('--mark'),
    wash: colour('--mark-wash'),
  };
};

/** The most that is worth paying at each age, with this machine and this offer on it. */
export function LimitCurve({ worth, ageYears, quote, currency }: Props) {
  const [colours, setColours] = useState(readColours);
  useEffect(() => {
    const observer = new MutationObserver(() => setColours(readColours()));
    observer.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
    return () => observer.disconnect();
  }, []);
  const points = worth.curve.map(({ age, limit }) => ({ x: age, y: Math.max(0, limit) }));
  return (
    <figure>
      <div className="h-44">
        <ChartView
          aria-label={`Repair limit by age. At ${formatYears(ageYears)} the limit is ${formatRate(Math.max(0, worth.limit), currency)}, the offer ${formatRate(quote, currency)}.`}
          type="line"
          data={{
            datasets: [
              {
                data: points,
                borderColor: colours.mark,
                backgroundColor: colours.wash,
                fill: 'origin',
                pointRadius: 0,
                borderWidth: 2,
                tension: 0.2,
              },
              {
                type: 'scatter',
                // Above the wash, not under it.
                order: -1,
                data: [{ x: ageYears, y: quote }],
                backgroundColor: colours.ink,
                borderColor: colours.ink,
                pointRadius: 6,
                pointStyle: 'rectRot',
              },
            ],
          }}
          options={{
            animation: false,
            maintainAspectRatio: false,
            plugins: { legend: { display: false }, tooltip: { enabled: false } },
            scales: {
              x: {
                type: 'linear',
                min: 0,
                max: 20,
                ticks: { color: colours.soft, callback: (value) => `${value} y` },
                grid: { color: colours.line },
              },
              y: {
                min: 0,
                ticks: { color: colours.soft, callback: (value) => formatNumber(Number(value)) },
                grid: { color: colours.line },
              },
            },
          }}
        />
      </div>
      <figcaption className="text-sm text-soft">
        Worth paying at each age ({currency}). The mark is this machine at this offer: below the line, repair.
      </figcaption>
    </figure>
  );
}
