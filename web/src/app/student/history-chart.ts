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
  type ScaleChartOptions,
} from 'chart.js';
import { dateOfDay, dayOfDate } from '@vivid-cue/core/plan';
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
  const ink = inkOf(canvas);
  const today = dayOfDate(history.today);
  const chart = new Chart<'line' | 'bar', Point[]>(canvas, {
    data: { datasets: [...tempoLines(history, ink), ...repBars(history, ink)] },
    options: {
      ...{ animation: false, responsive: true, maintainAspectRatio: false, parsing: false },
      interaction: { mode: 'nearest', axis: 'x', intersect: false },
      plugins: {
        tooltip: {
          callbacks: { title: ([item]) => (item ? shortDay(dateAt(today, item.parsed.x ?? 0)) : '') },
        },
      },
      scales: scalesOf(history, ink),
    },
  });
  return () => chart.destroy();
}

/** Days from today of a history's first and last day. */
function reach({ days, fan, today }: ChartedHistory): { readonly first: number; readonly last: number } {
  const all = [...days, ...fan].map(({ date }) => dayOfDate(date) - dayOfDate(today));
  return { first: Math.min(-7, ...all), last: Math.max(7, ...all) };
}

function tempoLine(label: string, data: Point[], more: object): Charted<'line'> {
  return {
    ...{ type: 'line' as const, label, data, yAxisID: 'y', pointRadius: 0, borderWidth: 2 },
    ...more,
  };
}

/** Where the reliable tempo is likely to go. */
function fanLines({ fan, today }: ChartedHistory, ink: Ink): Charted<'line'>[] {
  const points = (valueOf: (point: FanPoint) => number): Point[] =>
    fan.map((point) => ({ x: dayOfDate(point.date) - dayOfDate(today), y: valueOf(point) }));
  const [high, low, middle] = [
    points((point) => point.high),
    points((point) => point.low),
    points((point) => point.middle),
  ];
  const clear = 'transparent';
  return [
    tempoLine('likely, high', high, { borderColor: clear, fill: '+1', backgroundColor: ink.fan }),
    tempoLine('likely, low', low, { borderColor: clear }),
    tempoLine('reliable at, likely', middle, { borderColor: ink.clean, borderDash: [6, 4] }),
  ];
}

function tempoLines(history: ChartedHistory, ink: Ink): Charted<'line'>[] {
  const { first, last } = reach(history);
  const points = (valueOf: (day: HistoryDay) => number | null): Point[] =>
    history.days.flatMap((day) => {
      const y = valueOf(day);
      return y === null ? [] : [{ x: dayOfDate(day.date) - dayOfDate(history.today), y }];
    });
  const target = [first, last].map((x) => ({ x, y: history.targetBpm }));
  const [planned, played, clean] = [
    points(({ plannedBpm }) => plannedBpm),
    points(({ bpm }) => bpm),
    points(({ cleanBpm }) => cleanBpm),
  ];
  const asDots = { showLine: false, pointRadius: 4, borderColor: ink.planned, backgroundColor: ink.sheet };
  const asLine = { borderColor: ink.clean, backgroundColor: ink.clean, pointRadius: 4, borderWidth: 2.5 };
  return [
    tempoLine('target', target, { borderColor: ink.target, borderDash: [2, 5] }),
    ...fanLines(history, ink),
    tempoLine('planned', planned, { borderColor: ink.planned, stepped: 'middle', borderWidth: 1.5 }),
    tempoLine('fastest played', played, asDots),
    tempoLine('fastest clean', clean, asLine),
  ];
}

function repBars({ days, today }: ChartedHistory, ink: Ink): Charted<'bar'>[] {
  const played = days.filter(({ reps }) => reps > 0);
  const bars = (label: string, valueOf: (day: HistoryDay) => number, color: string): Charted<'bar'> => ({
    ...{ type: 'bar' as const, label, yAxisID: 'reps', stack: 'reps' },
    ...{ backgroundColor: color, barThickness: 6 },
    data: played.map((day) => ({ x: dayOfDate(day.date) - dayOfDate(today), y: valueOf(day) })),
  });
  return [
    bars('clean', ({ clean }) => clean, ink.bar),
    bars('slips', ({ reps, clean }) => reps - clean, ink.slip),
  ];
}

function scalesOf(history: ChartedHistory, ink: Ink): ScaleChartOptions<'line' | 'bar'>['scales'] {
  const { first, last } = reach(history);
  const today = dayOfDate(history.today);
  const most = Math.max(8, ...history.days.map(({ reps }) => reps));
  const title = (text: string): object => ({ title: { display: true, text, color: ink.soft } });
  return {
    x: {
      ...{ type: 'linear', min: first - 0.5, max: last + 0.5, grid: { color: ink.rule } },
      ticks: {
        ...{ color: ink.soft, maxTicksLimit: 9, precision: 0 },
        callback: (day: string | number) => shortDay(dateAt(today, Number(day))),
      },
    },
    y: {
      ...{ type: 'linear', position: 'left', grid: { color: ink.rule }, ticks: { color: ink.soft } },
      ...{ suggestedMin: history.targetBpm * 0.35, suggestedMax: history.targetBpm * 1.08 },
      ...title('tempo'),
    },
    reps: {
      ...{ type: 'linear', position: 'right', beginAtZero: true, stacked: true, grid: { display: false } },
      // Bars keep to the lower fifth, so that the tempos stand free.
      max: 5 * most,
      ticks: {
        color: ink.soft,
        callback: (value: string | number) => (Number(value) <= most ? value : ''),
      },
      ...title('reps'),
    },
  } as unknown as ScaleChartOptions<'line' | 'bar'>['scales'];
}

function dateAt(today: number, day: number): string {
  return dateOfDay(today + Math.round(day));
}

/** The colours of a chart, as the theme has them. */
type Ink = Readonly<
  Record<'clean' | 'planned' | 'target' | 'fan' | 'bar' | 'slip' | 'rule' | 'soft' | 'sheet', string>
>;

function inkOf(canvas: HTMLCanvasElement): Ink {
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
