import { beatBpm, beatUnitOf, compareQuarters, type TempoMark } from '../music/index.js';
import type { Score, ScoreMeasure } from '../score/index.js';
import type { ToldEnding, ToldMusic, ToldRepeat } from './told.js';

/**
 * What somebody would tell of a digital score's measures, so that a told line can begin from it or be compared with it.
 * Shape:  null where its measures are not numbered one after the other, or it jumps: neither can be told in a line
 * Units:  as ToldMusic
 */
export function toldOfScore({ measures, tempos }: Score): ToldMusic | null {
  const [opening] = measures;
  const pickup = opening?.implicit === true ? opening : null;
  const whole = pickup ? measures.slice(1) : measures;
  const first = Number(whole[0]?.number);
  const isCounted = whole.every(({ number, implicit }, n) => !implicit && Number(number) === first + n);
  if (!Number.isInteger(first) || !isCounted || measures.some(jumps)) return null;
  const numberAt = (measure: ScoreMeasure): number => (measure === pickup ? first : Number(measure.number));
  const changes = <Value>(of: (measure: ScoreMeasure) => Value): { at: number; value: Value }[] =>
    whole.flatMap((measure, n) => {
      const before = whole[n - 1];
      const isNew = before === undefined || JSON.stringify(of(before)) !== JSON.stringify(of(measure));
      return isNew ? [{ at: Number(measure.number), value: of(measure) }] : [];
    });
  return {
    first,
    last: first + whole.length - 1,
    meters: changes(({ meter }) => meter).map(({ at, value }) => ({ from: at, meter: value })),
    pickup: pickup?.length ?? null,
    letters: measures.flatMap((measure) =>
      measure.rehearsal === null ? [] : [{ name: measure.rehearsal, at: numberAt(measure) }],
    ),
    repeats: repeatsOf(whole),
    tempos: tempos.flatMap(({ at, quarterBpm }) => {
      const measure = measures.find(({ start }) => compareQuarters(start, at) === 0);
      if (!measure) return [];
      const beatUnit = beatUnitOf(measure.meter);
      const bpm = beatBpm(quarterBpm, beatUnit);
      const mark: TempoMark = { beatUnit, bpmMin: bpm, bpmMax: bpm, bound: 'exact', words: null };
      return [{ at: numberAt(measure), mark }];
    }),
    keys: changes(({ fifths }) => fifths)
      .filter(({ value }, n) => n > 0 || value !== 0)
      .map(({ at, value }) => ({ at, fifths: value })),
    dense: [],
  };
}

function jumps({ navigation }: ScoreMeasure): boolean {
  return (
    navigation !== null && (navigation.daCapo || navigation.dalSegno !== null || navigation.toCoda !== null)
  );
}

/** Sections with their endings: each goes from a forward repeat, or what was repeated before, to where it goes back. */
function repeatsOf(measures: readonly ScoreMeasure[]): ToldRepeat[] {
  const repeats: ToldRepeat[] = [];
  let from = Number(measures[0]?.number);
  let open: { from: number; times: number; endings: ToldEnding[] } | null = null;
  const close = (to: number): void => {
    if (open) repeats.push({ ...open, to });
    open = null;
    from = to + 1;
  };
  measures.forEach(({ number: printed, navigation }, n) => {
    const number = Number(printed);
    if (navigation?.repeatForward === true) {
      if (open) close(number - 1);
      from = number;
    }
    const passes = navigation?.endings ?? null;
    if (open && passes === null) close(number - 1);
    if (passes !== null) {
      open ??= { from, times: 2, endings: [] };
      const last = open.endings.at(-1);
      const isMore = last !== undefined && JSON.stringify(last.passes) === JSON.stringify(passes);
      if (isMore) open.endings[open.endings.length - 1] = { ...last, to: number };
      else open.endings.push({ passes, from: number, to: number });
      open.times = Math.max(open.times, ...passes);
    }
    if (navigation?.repeatTimes != null && passes === null) {
      open = { from, times: navigation.repeatTimes, endings: [] };
      close(number);
    }
    if (n === measures.length - 1 && open) close(number);
  });
  return repeats;
}
