import {
  BarController,
  BarElement,
  Chart,
  Filler,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
  type ChartDataset,
} from 'chart.js';
import { dayOfDate } from '@vivid-cue/core/plan';
import { shortDay } from '../ui/texts';
import type { FanPoint, HistoryDay } from './history-series';

Chart.register(
  BarController,
  BarElement,
  Filler,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
);

/** What a chart of a passage shows. Units: beats a minute */
export interface ChartedHistory {
  readonly days: readonly HistoryDay[];
  readonly fan: readonly FanPoint[];
  readonly today: string;
  readonly targetBpm: number;
}

/** A set of data of one kind. */
type Charted<Kind extends 'line' | 'bar'> = ChartDataset<Kind, Point[]> & { readonly type: Kind };

interface Point {
  readonly x: number;
  readonly y: number;
}

/** Draws a passage's history on a canvas; what is returned takes it away again. */
export function drawHistory(canvas: HTMLCanvasElement, history: ChartedHistory): () => void {
  const ink = colors(canvas);
  const today = dayOfDate(history.today);
  const at = (date: string): number => dayOfDate(date) - today;
  const points = (valueOf: (day: HistoryDay) => number | null): Point[] =>
    history.days.flatMap((day) => {
      const y = valueOf(day);
      return y === null ? [] : [{ x: at(day.date), y }];
    });
  const first = Math.min(-7, ...history.days.map(({ date }) => at(date)));
  const last = Math.max(
    7,
    ...history.days.map(({ date }) => at(date)),
    ...history.fan.map(({ date }) => at(date)),
  );
  const line = (label: string, data: Point[], more: object): Charted<'line'> => ({
    ...{ type: 'line' as const, label, data, yAxisID: 'y', pointRadius: 0, borderWidth: 2 },
    ...more,
  });
  const bars = (label: string, valueOf: (day: HistoryDay) => number, color: string): Charted<'bar'> => ({
    ...{
      type: 'bar' as const,
      label,
      yAxisID: 'reps',
      backgroundColor: color,
      barThickness: 6,
      stack: 'reps',
    },
    data: history.days.filter(({ reps }) => reps > 0).map((day) => ({ x: at(day.date), y: valueOf(day) })),
  });
  const fan = (valueOf: (point: FanPoint) => number): Point[] =>
    history.fan.map((point) => ({ x: at(point.date), y: valueOf(point) }));
  const chart = new Chart<'line' | 'bar', Point[]>(canvas, {
    data: {
      datasets: [
        line(
          'target',
          [
            { x: first, y: history.targetBpm },
            { x: last, y: history.targetBpm },
          ],
          {
            ...{ borderColor: ink.target, borderDash: [2, 5] },
          },
        ),
        line(
          'likely, high',
          fan(({ high }) => high),
          { borderColor: 'transparent', fill: '+1', backgroundColor: ink.fan },
        ),
        line(
          'likely, low',
          fan(({ low }) => low),
          { borderColor: 'transparent' },
        ),
        line(
          'reliable at, likely',
          fan(({ middle }) => middle),
          { borderColor: ink.clean, borderDash: [6, 4] },
        ),
        line(
          'planned',
          points(({ plannedBpm }) => plannedBpm),
          {
            ...{ borderColor: ink.planned, stepped: 'middle', borderWidth: 1.5, pointRadius: 0 },
          },
        ),
        line(
          'fastest played',
          points(({ bpm }) => bpm),
          {
            ...{
              showLine: false,
              pointRadius: 4,
              pointStyle: 'circle',
              borderColor: ink.planned,
              backgroundColor: ink.sheet,
            },
          },
        ),
        line(
          'fastest clean',
          points(({ cleanBpm }) => cleanBpm),
          {
            ...{ borderColor: ink.clean, backgroundColor: ink.clean, pointRadius: 4, borderWidth: 2.5 },
          },
        ),
        bars('clean', ({ clean }) => clean, ink.bar),
        bars('slips', ({ reps, clean }) => reps - clean, ink.slip),
      ],
    },
    options: {
      ...{ animation: false, responsive: true, maintainAspectRatio: false, parsing: false },
      interaction: { mode: 'nearest', axis: 'x', intersect: false },
      plugins: {
        tooltip: {
          callbacks: { title: ([item]) => (item ? shortDay(dateAt(today, item.parsed.x ?? 0)) : '') },
        },
      },
      scales: {
        x: {
          ...{ type: 'linear', min: first - 0.5, max: last + 0.5, grid: { color: ink.rule } },
          ticks: {
            color: ink.soft,
            maxTicksLimit: 9,
            precision: 0,
            callback: (day) => shortDay(dateAt(today, Number(day))),
          },
        },
        y: {
          ...{
            type: 'linear',
            position: 'left',
            grid: { color: ink.rule },
            suggestedMax: history.targetBpm * 1.08,
            suggestedMin: history.targetBpm * 0.35,
          },
          title: { display: true, text: 'tempo', color: ink.soft },
          ticks: { color: ink.soft },
        },
        reps: {
          ...{
            type: 'linear',
            position: 'right',
            beginAtZero: true,
            stacked: true,
            grid: { display: false },
          },
          // Bars keep to the lower fifth, so that the tempos stand free.
          max: 5 * Math.max(8, ...history.days.map(({ reps }) => reps)),
          title: { display: true, text: 'reps', color: ink.soft },
          ticks: {
            color: ink.soft,
            callback: (value) =>
              Number(value) <= Math.max(8, ...history.days.map(({ reps }) => reps)) ? value : '',
          },
        },
      },
    },
  });
  return () => chart.destroy();
}

function dateAt(today: number, day: number): string {
  return new Date((today + Math.round(day)) * 86_400_000).toISOString().slice(0, 10);
}

function colors(
  canvas: HTMLCanvasElement,
): Readonly<
  Record<'clean' | 'planned' | 'target' | 'fan' | 'bar' | 'slip' | 'rule' | 'soft' | 'sheet', string>
> {
  const style = getComputedStyle(canvas);
  const of = (name: string): string => style.getPropertyValue(name).trim();
  return {
    clean: of('--primary'),
    planned: of('--ink-soft'),
    target: of('--ink'),
    fan: `${of('--state-climbing')}55`,
    bar: of('--state-grounded'),
    slip: of('--stop'),
    rule: of('--rule'),
    soft: of('--ink-soft'),
    sheet: of('--sheet'),
  };
}
