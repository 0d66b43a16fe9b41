import { tempoText } from '../music/index.js';
import type { Plan, PlanInput } from './plan.js';
import type { WayOut } from './ways-out.js';

/** How days are called. Shape: from today; "28 November", "in 12 days" */
export type DayText = (day: number) => string;

/**
 * Says whether a plan holds, since when, and what is tightest.
 * Shape:  one to three sentences
 * Units:  days from today
 */
export function planSentence(input: PlanInput, plan: Plan, dayText: DayText): string {
  const count = input.passages.length;
  if (count === 0) return 'Nothing to plan yet: cut passages first.';
  const nameOf = (id: string): string => `“${input.passages.find((one) => one.id === id)?.name ?? id}”`;
  const tightest = plan.tightest === null ? '' : nameOf(plan.tightest);
  const missing = plan.courses.filter(({ readyDay }) => readyDay === null);
  if (missing.length === 0) {
    const ready = Math.max(...plan.courses.map(({ readyDay }) => readyDay ?? 0));
    const all = count === 1 ? 'It is' : `All ${count} are`;
    return `It holds. ${all} at tempo on ${dayText(ready)}. Tightest: ${tightest}; ${spareText(input, plan)}.`;
  }
  const most = [...missing].sort((a, b) => a.share - b.share)[0];
  const passage = input.passages.find(({ id }) => id === most?.passageId);
  const reached =
    passage === undefined || most === undefined
      ? ''
      : ` ${nameOf(passage.id)} would be reliable at ${tempoText(Math.floor(passage.targetBpm * most.share), passage.unit)} of ${tempoText(Math.round(passage.targetBpm), passage.unit)}.`;
  const others = missing.length === 1 ? 'One passage is' : `${missing.length} of ${count} passages are`;
  return `It does not hold: ${others} not at tempo in time.${reached}`;
}

function spareText({ passages }: PlanInput, { courses, tightest }: Plan): string {
  const course = courses.find(({ passageId }) => passageId === tightest);
  const deadline = passages.find(({ id }) => id === tightest)?.deadline ?? 0;
  const days = deadline - (course?.readyDay ?? deadline);
  if (days > 7) return `${days} days to spare`;
  return days <= 1 ? 'no day to spare' : `a missed week there costs the margin of ${days} days`;
}

/**
 * Says what would make a plan hold.
 * Shape:  one sentence
 * Units:  minutes a day, beats a minute
 */
export function wayOutText(way: WayOut, input: PlanInput, dayText: DayText): string {
  switch (way.kind) {
    case 'minutes':
      return way.isWithinCap
        ? `${way.minutes} minutes a day instead of ${input.minutes} make it hold.`
        : `${way.minutes} minutes a day would make it hold, but the cap is ${input.cap}.`;
    case 'tempo':
      return way.isAllowed
        ? `${way.percent} % of the tempo holds, and the sheet allows it.`
        : `It holds at ${way.percent} % of the tempo; the sheet asks for more, so the gap would be heard.`;
    case 'measures': {
      const names = way.passageIds.map(
        (id) => `“${input.passages.find((one) => one.id === id)?.name ?? id}”`,
      );
      return `Without ${names.join(', ')} the rest holds: another option of the sheet, or fewer measures.`;
    }
    case 'postpone': {
      const names = way.partIds.map((id) => input.parts.find((one) => one.id === id)?.name ?? id);
      return `It holds if ${names.join(', ')} ${names.length === 1 ? 'waits' : 'wait'} until ${dayText(way.untilDay)}.`;
    }
  }
}
