import {
  Chart,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
  type ChartConfiguration,
} from 'chart.js';
import type { Curve, Curves } from '../index';

Chart.register(LineController, LineElement, PointElement, LinearScale, Tooltip);

/** Room for the numbers beside every curve, in px: so that the same frame is at the same place in all of them. */
const BESIDE = 56;

const colours = getComputedStyle(document.documentElement);
const colour = (name: string) => colours.getPropertyValue(`--${name}`).trim();
const written = (value: number) => (value === 0 ? '0' : Number(value.toPrecision(3)).toString());

/** A curve over the frames, with the line that it should stay under; what it is at a frame is read under the pointer. */
function chartOf({ label, unit, values, limit }: Curve, frames: readonly number[]): ChartConfiguration<'line'> {
  const quiet = { color: colour('quiet'), font: { family: 'system-ui, sans-serif', size: 11 } };
  const rule = { color: colour('rule') };
  const line = {
    data: values.map((y, i) => ({ x: frames[i]!, y })),
    borderColor: colour('line'),
    backgroundColor: colour('line'),
    borderWidth: 1.5,
    // One frame is a point; many are a line.
    pointRadius: frames.length === 1 ? 3 : 0,
    pointHitRadius: 8,
  };
  const limits = {
    data: [frames[0] ?? 0, frames.at(-1) ?? 0].map((x) => ({ x, y: limit! })),
    borderColor: colour('limit'),
    borderWidth: 1,
    borderDash: [5, 4],
    pointRadius: 0,
    pointHitRadius: 0,
  };
  return {
    type: 'line',
    data: { datasets: limit === undefined ? [line] : [line, limits] },
    options: {
      animation: false,
      maintainAspectRatio: false,
      interaction: { mode: 'nearest', axis: 'x', intersect: false },
      scales: {
        x: {
          type: 'linear',
          min: frames[0] ?? 0,
          max: frames.at(-1) ?? 0,
          ticks: { ...quiet, precision: 0, maxRotation: 0 },
          grid: { display: false },
          border: rule,
        },
        y: {
          beginAtZero: true,
          suggestedMax: limit,
          ticks: { ...quiet, maxTicksLimit: 4, callback: (value) => written(Number(value)) },
          grid: rule,
          border: { display: false },
          afterFit: (axis) => (axis.width = BESIDE),
        },
      },
      plugins: {
        tooltip: {
          displayColors: false,
          backgroundColor: colour('ink'),
          titleColor: colour('paper'),
          bodyColor: colour('paper'),
          filter: ({ datasetIndex }) => datasetIndex === 0,
          callbacks: {
            title: ([at]) => `Frame ${at?.parsed.x}`,
            label: ({ parsed }) => `${label}: ${written(parsed.y ?? 0)} ${unit}`.trim(),
          },
        },
      },
    },
  };
}

const { frames, curves } = JSON.parse(document.getElementById('curves')!.textContent) as Curves;
for (const [i, canvas] of document.querySelectorAll<HTMLCanvasElement>('canvas[data-curve]').entries())
  new Chart(canvas, chartOf(curves[i]!, frames));
