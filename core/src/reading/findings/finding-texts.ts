import { capital, groupBy } from '../../base/index.js';
import { alterInKey, letterName } from '../../music/index.js';
import { indexesOf, type Score } from '../../score/index.js';
import type { RawFinding } from './finding.js';
import { ruleFor } from './ornament-rules.js';
import { IMPORTANCE, raw, spanOf, WIDEST_PAIR, type Finder, type Reading } from './finding-parts.js';
import { returns } from './return-findings.js';
import { shortRhythm } from '../inventory/rhythm-patterns.js';
import { isWritten } from '../line/solo-line.js';

/** Rhythms beyond so many are no help to learn the piece. */
const MOST_RHYTHMS = 4;
const FEWEST_LIKE = 3;
/** A held note is worth a word from so many seconds on (common practice, no source). */
const LONG_SECONDS = 4;
/** An alteration off the key that comes at most so often is worth naming. */
const RARE_COUNT = 3;
export const FINDERS: readonly Finder[] = [
  deciding,
  returns,
  meters,
  surprising,
  odd,
  ornaments,
  rareNotes,
  awkward,
  doubleDots,
  feel,
  dynamics,
  held,
  tested,
  rhythms,
  repeats,
  scaleRuns,
];

function deciding({ deciding: top, opening, demands }: Reading): RawFinding[] {
  const own = top && demands.find(({ measure }) => measure === top.measure);
  if (!top || !own) return [];
  return [
    raw('deciding', {
      title: `Measure ${top.measure} decides the tempo.`,
      sentence: `${capital(own.because)}. ${opening.because}`,
      places: [own.index],
    }),
  ];
}

function meters({ indexOf, meterTraps }: Reading): RawFinding[] {
  return meterTraps.map(({ measures, reads, sounds }) =>
    raw('meter', {
      title: sounds.startsWith('groups') ? 'The beat divides unequally.' : `${reads} sounds as ${sounds}.`,
      sentence: sounds.startsWith('groups')
        ? `${capital(sounds)} notes a beat: keep the beat, change the division.`
        : `The notes are grouped ${sounds} under a signature of ${reads}; keep counting the printed beat.`,
      places: measures.map((number) => indexOf(number)),
      detail: `${reads}>${sounds}`,
    }),
  );
}

function surprising({ indexOf, surprises }: Reading): RawFinding[] {
  return surprises
    .filter(({ why }) => !isRarity(why))
    .map(({ measure, note, ordinal, why }) => {
      const index = indexOf(measure);
      return raw('surprise', {
        title: `${named(note.replace(/\d+$/u, ''))} is easy to miss.`,
        sentence: `Note ${ordinal}, ${note}: ${why}.`,
        places: [index],
        notes: [{ index, note: ordinal }],
        detail: `${ordinal} ${note}`,
      });
    });
}

/** Rare alterations have a finding of their own. */
function isRarity(why: string): boolean {
  return /^(?:the only|one of)/u.test(why);
}

function odd({ indexOf, oddOnesOut }: Reading): RawFinding[] {
  const groups = groupBy(oddOnesOut, ({ measure, what }) => `${measure} ${what}`);
  return [...groups.values()].flatMap((own) => {
    const [first] = own;
    if (!first) return [];
    const { measure, what, why } = first;
    const index = indexOf(measure);
    const ordinals = own.map(({ note }) => note);
    const isOther = /dot|crescendo|diminuendo/u.test(what);
    return [
      raw('odd-one-out', {
        title: isOther ? `The ${what} is other than before.` : `${capital(what)} missing here?`,
        sentence: `${capital(own.length === 1 ? why : why.replace(/on note \d+/u, `on notes ${listed(ordinals)}`))}. Printed so, or an oversight? Settle it once.`,
        places: [index],
        notes: ordinals.map((note) => ({ index, note })),
        detail: `${ordinals.join(' ')} ${what}`,
      }),
    ];
  });
}

function ornaments({ indexOf, ornaments: all, ornamentRules }: Reading): RawFinding[] {
  return all.flatMap((one): RawFinding[] => {
    if (one.neighbour === null) return [];
    const rule = ruleFor(one, ornamentRules);
    const neighbour = rule?.neighbour ?? one.neighbour;
    return [
      raw('ornament', {
        title: `${capital(one.kind.replace(/-/gu, ' '))} with ${neighbour}.`,
        sentence: `${neighbourReason(one)}${rule ? `. The sheet says: “${rule.text}”` : '; the sheet’s own rule comes first.'}`,
        places: [indexOf(one.measure)],
        detail: `${one.kind} ${one.note} ${one.neighbour}`,
      }),
    ];
  });
}

function neighbourReason({ note, neighbour, by }: Reading['ornaments'][number]): string {
  const on = `On ${note.replace(/\d+$/u, '')}`;
  if (by === 'sign') return `${on} the accidental at the sign gives ${neighbour} as the neighbour`;
  if (by === 'measure') return `${on} the neighbour is ${neighbour}, which stands earlier in the measure`;
  return `${on} the key gives ${neighbour} as the neighbour`;
}

/** Alterations off the key that stand only here and there. */
function rareNotes({ score: { measures }, line }: Reading): RawFinding[] {
  const offKey = line.notes.filter(isWritten).filter(({ written, measureIndex, isGrace }) => {
    const fifths = measures[measureIndex]?.fifths ?? 0;
    return !isGrace && written.alter !== alterInKey(written.step, fifths);
  });
  return [...groupBy(offKey, ({ written }) => letterName(written))]
    .filter(([, notes]) => notes.length <= RARE_COUNT)
    .map(([name, notes]) => {
      const places = [...new Set(notes.map(({ measureIndex }) => measureIndex))];
      return raw('rare-note', {
        title:
          notes.length === 1
            ? `The only ${named(name)} in the piece.`
            : `${named(name)} comes ${notes.length === 2 ? 'twice' : `${notes.length} times`}.`,
        sentence: `In ${inMeasures(measures, places)}; everywhere else ${name[0] ?? ''} is as the key has it.`,
        places,
        notes: notes.map(({ measureIndex, ordinal }) => ({ index: measureIndex, note: ordinal })),
        detail: `${name} ${notes.map(({ ordinal }) => ordinal).join(' ')}`,
      });
    });
}

/** A natural is named as one: in a key with a flat, B is B♮. */
function named(name: string): string {
  return name.length === 1 ? `${name}♮` : name;
}

function awkward({ score, indexOf, awkwardPairs }: Reading): RawFinding[] {
  return [...groupBy(awkwardPairs, ({ why }) => why)].map(([why, pairs]) => {
    const places = [...new Set(pairs.map(({ measure }) => indexOf(measure)))];
    const texts = [...new Set(pairs.map(({ from, to }) => `${from}–${to}`))];
    return raw('awkward', {
      title: `${capital(why)}.`,
      sentence: `${texts.slice(0, 4).join(', ')}${texts.length > 4 ? ' …' : ''} in ${inMeasures(score.measures, places)}: settle the fingering once and repeat the pair by itself.`,
      places,
      notes: pairs.flatMap(({ measure, note }) => [{ index: indexOf(measure), note }]),
      detail: why,
    });
  });
}

function doubleDots({ score: { measures }, line }: Reading): RawFinding[] {
  const notes = line.notes.filter(({ signs }) => signs.dots === 2);
  if (notes.length === 0) return [];
  const places = [...new Set(notes.map(({ measureIndex }) => measureIndex))];
  return [
    raw('double-dot', {
      title: notes.length === 1 ? 'A double dot.' : `${notes.length} double dots.`,
      sentence: `In ${inMeasures(measures, places)}: feel the smallest value, the note after it is short.`,
      places,
      notes: notes.map(({ measureIndex, ordinal }) => ({ index: measureIndex, note: ordinal })),
      detail: notes.map(({ ordinal }) => ordinal).join(' '),
    }),
  ];
}

function feel({ indexOf, beatToFeel }: Reading): RawFinding[] {
  return beatToFeel.map(({ measure, unit, why }) =>
    raw('feel', {
      title: `Feel the ${unit}.`,
      sentence: `From measure ${measure} on: ${why}`,
      places: [indexOf(measure)],
      detail: `${measure} ${why}`,
    }),
  );
}

/** One finding a reason: the ask at the start, the narrow band, accents, each long crescendo. */
function dynamics({ indexOf, dynamicsAdvice }: Reading): RawFinding[] {
  const reasons = groupBy(
    dynamicsAdvice,
    ({ why }) => why.replace(/^Step \d+ of/u, 'Steps of').split(':')[0] ?? why,
  );
  return [...reasons].map(([reason, advice]) => {
    const places = [
      ...new Set(advice.flatMap(({ measure }) => (measure === null ? [] : [indexOf(measure)]))),
    ].sort((a, b) => a - b);
    const steps = advice.map(({ measure, mark }) => `${measure ?? ''} ${mark ?? ''}`.trim());
    const isSteps = reason.startsWith('Steps of');
    return raw('dynamics', {
      title: isSteps ? 'Level by level.' : dynamicsTitle(advice[0]?.why ?? ''),
      sentence: isSteps
        ? `${reason.replace(/^Steps of \d+ of the/u, 'The').replace(/\.$/u, '')}, measure by measure: ${steps.join(', ')}.`
        : underOneReason(unique(advice.map(({ why }) => why)), reason),
      places,
      detail: `${reason} ${steps.join(' ')}`,
    });
  });
}

/** Several pieces of advice for one reason name it once. */
function underOneReason(texts: readonly string[], reason: string): string {
  return texts
    .map((text, n) => (n === 0 ? text : text.replace(`${reason}: `, '')))
    .join(' ')
    .replace(/\. (?=[a-z])/gu, '; ');
}

function dynamicsTitle(why: string): string {
  if (why.startsWith('No dynamic is printed at the start')) return 'No dynamic at the start.';
  if (why.startsWith('No dynamic')) return 'No dynamics printed.';
  if (why.startsWith('Accents')) return 'Accents above their surroundings.';
  return why.startsWith('The first dynamic') ? 'Dynamics begin late.' : 'A narrow band of dynamics.';
}

function held({ line, indexOf, longestHeld, longestWithoutRest }: Reading): RawFinding[] {
  const found: RawFinding[] = [];
  if (longestHeld && (longestHeld.seconds ?? 0) >= LONG_SECONDS)
    found.push(
      raw('held', {
        title: `The longest note lasts ${seconds(longestHeld.seconds)}.`,
        sentence: `Measure ${longestHeld.measure}: count it in the running value and keep its sound alive.`,
        places: [indexOf(longestHeld.measure)],
        detail: 'held',
      }),
    );
  const stretch = longestWithoutRest;
  if (stretch && (stretch.seconds ?? 0) > 2 * LONG_SECONDS && line.notes.length > 1)
    found.push(
      raw('held', {
        importance: IMPORTANCE.held - 0.01,
        title: `${seconds(stretch.seconds)} without a rest.`,
        sentence: `From measure ${stretch.from} to ${stretch.to}: settle where to breathe or let go before the first run.`,
        places: [indexOf(stretch.from)],
        detail: 'stretch',
      }),
    );
  return found;
}

function seconds(value: number | null): string {
  return `${(value ?? 0).toFixed(1)} seconds`;
}

function tested({ shows }: Reading): RawFinding[] {
  const [first, second] = shows;
  if (!first) return [];
  return [
    raw('shows', {
      title: `It shows ${first.what}${second ? `, and ${second.what}` : ''}.`,
      sentence: `A guess from the notes: ${first.why}.`,
      detail: shows.map(({ what }) => what).join(' '),
    }),
  ];
}

function rhythms({ indexOf, patterns }: Reading): RawFinding[] {
  return patterns
    .filter(({ measures }) => measures.length >= FEWEST_LIKE)
    .slice(0, MOST_RHYTHMS)
    .map(({ id, measures, rhythm }, n) =>
      raw('rhythm', {
        importance: IMPORTANCE.rhythm - n / 1000,
        title: `Rhythm ${id}, ${counted(measures.length, 'measure')}.`,
        sentence: `Learn it on one pitch first: ${shortRhythm(rhythm)}.`,
        places: measures.map((number) => indexOf(number)),
        detail: rhythm,
      }),
    );
}

function repeats({ indexOf, exactRepeats }: Reading): RawFinding[] {
  return exactRepeats.map(({ a, b }) => {
    const [from, at] = [spanOf(indexOf, a), spanOf(indexOf, b)];
    return raw('repeat', {
      title: `${dashed(b)} is ${dashed(a)} again.`,
      sentence: 'Note for note: practise it once, count it twice, and keep breaths and fingerings the same.',
      places: indexesOf([at]),
      pair: at.endIndex - at.fromIndex > WIDEST_PAIR ? null : { a: from, b: at, aNotes: [], bNotes: [] },
      detail: 'exact',
    });
  });
}

function scaleRuns({ indexOf, runs }: Reading): RawFinding[] {
  return [...groupBy(runs, ({ scale }) => scale)].map(([scale, own]) =>
    raw('run', {
      importance: IMPORTANCE.run + Math.min(0.03, own.length / 100),
      title: `${own.length === 1 ? 'A run' : `${own.length} runs`} of ${scale}.`,
      sentence: `${own
        .slice(0, 4)
        .map(({ measure, from, to }) => `${from} to ${to} in ${measure}`)
        .join(', ')}${own.length > 4 ? ' …' : ''}: tie it to that scale in the warm-up.`,
      places: [...new Set(own.map(({ measure }) => indexOf(measure)))],
      detail: scale,
    }),
  );
}

function listed(numbers: readonly number[]): string {
  const last = numbers.at(-1) ?? '';
  return numbers.length < 2 ? String(last) : `${numbers.slice(0, -1).join(', ')} and ${last}`;
}

/** "measure 9", "measures 9, 10 and 12", "13 measures". */
function inMeasures(measures: Score['measures'], places: readonly number[]): string {
  const names = places.map((index) => measures[index]?.number ?? '');
  if (names.length === 1) return `measure ${names[0] ?? ''}`;
  return names.length > 6
    ? `${names.length} measures`
    : `measures ${names.slice(0, -1).join(', ')} and ${names.at(-1) ?? ''}`;
}

function dashed(span: string): string {
  return span.replace('-', '–');
}

function counted(count: number, word: string): string {
  return `${count} ${word}${count === 1 ? '' : 's'}`;
}

function unique(texts: readonly string[]): string[] {
  return [...new Set(texts)];
}
