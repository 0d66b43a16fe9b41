import { quarterBpm, tempoText, type BeatUnit, type Bpm, type TempoMark } from '../music/index.js';
import type { Choice, SheetPart } from '../sheet/index.js';

/** How a choice stands to what the sheet asks. */
export type VerdictStatus = 'satisfied' | 'short' | 'over' | 'undecided' | 'left-out';

/** A judgement with the reasons and numbers that make it. */
export interface Verdict {
  readonly status: VerdictStatus;
  readonly reasons: readonly string[];
  /** Those of the reasons that stand in the way. */
  readonly open: readonly string[];
}

/** How a published tempo is taken. Source: schools of practice, product design. */
export type TempoPolicy = 'keep' | 'own' | 'range';

/**
 * What a student plays for one part.
 * Shape:  seconds null without a score or a tempo; `repeated` names the repeated stretches in printed numbers
 * Units:  seconds at the target tempo; beats of the unit per minute
 */
export interface PartAnswer {
  readonly isTaken: boolean;
  readonly workTitle: string | null;
  readonly hasScore: boolean;
  readonly spanIssue: string | null;
  readonly target: { readonly bpm: Bpm; readonly beatUnit: BeatUnit } | null;
  readonly policy: TempoPolicy;
  readonly repeats: 'take' | 'omit' | null;
  readonly seconds: { readonly withRepeats: number; readonly straight: number } | null;
  readonly repeated: readonly string[];
}

/** Minutes and seconds as people write them: 3:24. */
export function clockText(seconds: number): string {
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}

const RANK: readonly VerdictStatus[] = ['short', 'over', 'undecided', 'satisfied', 'left-out'];

function worst(statuses: readonly VerdictStatus[]): VerdictStatus {
  return RANK.find((status) => statuses.includes(status)) ?? 'satisfied';
}

/**
 * Whether an answer satisfies a part: the work, the span, the tempo, the length.
 * Shape:  the hardest status of all; reasons in the order they are looked at
 * Units:  as PartAnswer
 */
export function judgeAnswer(part: SheetPart, answer: PartAnswer): Verdict {
  if (!answer.isTaken) return { status: 'left-out', reasons: ['Not chosen.'], open: [] };
  const found = [
    workOf(part, answer),
    spanOf(answer),
    tempoOf(part.tempo, answer),
    lengthOf(part, answer),
  ].filter((one) => one !== null);
  return {
    status: worst(found.map(({ status }) => status)),
    reasons: found.map(({ reason }) => reason),
    open: found.filter(({ status }) => status !== 'satisfied').map(({ reason }) => reason),
  };
}

interface Finding {
  readonly status: VerdictStatus;
  readonly reason: string;
}

const NEEDS_WORK: ReadonlySet<SheetPart['kind']> = new Set(['etude', 'excerpt', 'solo']);

function workOf(part: SheetPart, { workTitle, hasScore }: PartAnswer): Finding | null {
  if (!NEEDS_WORK.has(part.kind) || hasScore) return null;
  const name = workTitle ?? part.title;
  return name === null
    ? { status: 'undecided', reason: 'No work is chosen yet.' }
    : { status: 'undecided', reason: `"${name}" has no score yet: its measures and length are not known.` };
}

function spanOf({ spanIssue }: PartAnswer): Finding | null {
  return spanIssue === null ? null : { status: 'undecided', reason: spanIssue };
}

function tempoOf(asked: TempoMark, { target, policy }: PartAnswer): Finding | null {
  if (asked.bound === 'none') return null;
  if (target === null)
    return {
      status: 'undecided',
      reason:
        asked.words === null
          ? 'No target tempo is set.'
          : `"${asked.words}" gives no number: set the target tempo.`,
    };
  if (asked.beatUnit === null || (asked.bpmMin ?? asked.bpmMax) === null) return null;
  const own = quarterBpm(target.bpm, target.beatUnit);
  const low = asked.bpmMin === null ? null : quarterBpm(asked.bpmMin, asked.beatUnit);
  const high = asked.bpmMax === null ? null : quarterBpm(asked.bpmMax, asked.beatUnit);
  const text = tempoText(target.bpm, target.beatUnit);
  if (low !== null && own < low - 1e-9)
    return {
      status: 'short',
      reason: `${text} is slower than the sheet’s ${tempoText(asked.bpmMin ?? 0, asked.beatUnit)}${policy === 'own' ? ', by your own decision' : ''}.`,
    };
  if (high !== null && own > high + 1e-9 && asked.bound !== 'about' && asked.bound !== 'exact')
    return {
      status: 'over',
      reason: `${text} is faster than the sheet’s ${tempoText(asked.bpmMax ?? 0, asked.beatUnit)}${policy === 'own' ? ', by your own decision' : ''}.`,
    };
  return { status: 'satisfied', reason: `${text} satisfies the sheet.` };
}

function lengthOf(part: SheetPart, { seconds, repeats, repeated }: PartAnswer): Finding | null {
  const { minSeconds, maxSeconds } = part;
  if (minSeconds === null && maxSeconds === null) return null;
  if (seconds === null)
    return { status: 'undecided', reason: `The length is not known yet; ${limitText(part)}.` };
  const takes = (repeats ?? (part.repeats === 'omit' ? 'omit' : 'take')) === 'take';
  const own = takes ? seconds.withRepeats : seconds.straight;
  const other = takes ? seconds.straight : seconds.withRepeats;
  const hasRepeats = Math.abs(seconds.withRepeats - seconds.straight) > 0.5;
  const now = `It lasts ${clockText(own)}${hasRepeats ? (takes ? ' with repeats' : ' without repeats') : ''}, ${limitText(part)}`;
  const fits = (length: number): boolean =>
    (maxSeconds === null || length <= maxSeconds) && (minSeconds === null || length >= minSeconds);
  if (fits(own)) return { status: 'satisfied', reason: `${now}.` };
  const what = repeated.length === 1 ? `the repeat of ${repeated[0]}` : 'the repeats';
  const way =
    hasRepeats && fits(other) ? `; ${takes ? 'without' : 'with'} ${what} it lasts ${clockText(other)}` : '';
  return { status: maxSeconds !== null && own > maxSeconds ? 'over' : 'short', reason: `${now}${way}.` };
}

function limitText({ minSeconds, maxSeconds }: SheetPart): string {
  if (minSeconds !== null && maxSeconds !== null)
    return `the sheet asks ${clockText(minSeconds)} to ${clockText(maxSeconds)}`;
  return maxSeconds === null
    ? `the least is ${clockText(minSeconds ?? 0)}`
    : `the limit is ${clockText(maxSeconds)}`;
}

/** Parts to choose from: which are taken, and how each is called. */
export interface Taken {
  readonly ids: ReadonlySet<string>;
  readonly nameOf: (id: string) => string;
}

/** A rule of choice in words: "One of Option 1, Option 2 with Option 3". */
export function choiceText({ rule, n, of }: Choice, nameOf: Taken['nameOf']): string {
  const isEach = rule === 'oneFromEach';
  const names = of.map((one) =>
    typeof one === 'string' ? nameOf(one) : one.map(nameOf).join(isEach ? ' / ' : ' with '),
  );
  if (isEach) return `One from each of: ${names.join('; ')}`;
  if (rule === 'all') return `All of: ${names.join(', ')}`;
  return `${n === 1 || n === null ? 'One' : n} of: ${names.join(', ')}`;
}

/**
 * Whether what is taken follows a rule of choice.
 * Shape:  parts that are not there count as not taken
 * Source: docs/formats.md
 */
export function judgeChoice(choice: Choice, taken: Taken): Verdict {
  return choice.rule === 'oneFromEach' ? judgeGroups(choice, taken) : judgeCount(choice, taken);
}

function judgeGroups({ n, of }: Choice, { ids, nameOf }: Taken): Verdict {
  // "Three pieces, one from each list": the number is of them all.
  const wanted = n !== null && n % of.length === 0 ? n / of.length : (n ?? 1);
  const off = of.flatMap((group) => {
    const members = typeof group === 'string' ? [group] : group;
    const count = members.filter((id) => ids.has(id)).length;
    const names = members.map(nameOf).join(', ');
    const text =
      count > wanted ? `${count} of ${names} are chosen, one is asked.` : `None of ${names} is chosen yet.`;
    return count === wanted ? [] : [{ count, text }];
  });
  if (off.length === 0) return { status: 'satisfied', reasons: ['One from each group is chosen.'], open: [] };
  const texts = off.map(({ text }) => text);
  const isOver = off.some(({ count }) => count > wanted);
  return { status: isOver ? 'over' : 'undecided', reasons: texts, open: texts };
}

function judgeCount({ rule, n, of }: Choice, { ids, nameOf }: Taken): Verdict {
  const isTaken = (item: string | readonly string[]): boolean =>
    typeof item === 'string' ? ids.has(item) : item.every((id) => ids.has(id));
  const names = of
    .map((item) => (typeof item === 'string' ? nameOf(item) : item.map(nameOf).join(' with ')))
    .join(', ');
  const count = of.filter(isTaken).length;
  const wanted = rule === 'all' ? of.length : (n ?? 1);
  const isWhole = wanted === of.length;
  if (count === wanted)
    return {
      status: 'satisfied',
      reasons: [`${wanted === 1 ? 'One' : wanted} of ${names} is chosen.`],
      open: [],
    };
  const status = count > wanted ? 'over' : rule === 'all' ? 'short' : 'undecided';
  const asked = isWhole ? 'All' : wanted === 1 ? 'One' : String(wanted);
  const text =
    count === 0 && !isWhole
      ? `None of ${names} is chosen yet.`
      : `${asked} of ${names} must be chosen; ${count} ${count === 1 ? 'is' : 'are'}.`;
  return { status, reasons: [text], open: [text] };
}

/**
 * The whole program: its parts and its choices together.
 * Shape:  left-out parts do not count; the hardest status of the rest
 */
export function judgeProgram(
  parts: readonly { readonly label: string; readonly verdict: Verdict }[],
  choices: readonly Verdict[],
): Verdict {
  const counted = [...parts.map(({ verdict }) => verdict), ...choices].filter(
    ({ status }) => status !== 'left-out',
  );
  const reasons = [
    ...parts.flatMap(({ label, verdict }) => verdict.open.map((reason) => `${label}: ${reason}`)),
    ...choices.flatMap(({ open }) => open),
  ];
  return { status: worst([...counted.map(({ status }) => status), 'satisfied']), reasons, open: reasons };
}
