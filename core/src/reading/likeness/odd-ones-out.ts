import { countBy, groupBy } from '../../base/index.js';
import { toNumber } from '../../music/index.js';
import type { Score } from '../../score/index.js';
import type { Inventory } from '../inventory/inventory.js';
import type { LineNote, SoloLine } from '../line/solo-line.js';

/** A measure that leaves its series. Shape: `note` is the ordinal in the measure, from 1. */
export interface OddOneOut {
  readonly measure: string;
  readonly note: number;
  /** The sign that is missing or other: "accent", "crescendo", "double dot" … */
  readonly what: string;
  readonly why: string;
}

/** A series needs so many members with the sign, and so large a share of them (our own knees). */
const FEWEST_BEARERS = 3;
const SMALLEST_SHARE = 0.75;
/** At most so many measures without the sign lie between two that have it. */
const LARGEST_GAP = 1;
/** Signs that a slur takes away. */
const SHORT: ReadonlySet<string> = new Set(['staccato', 'staccatissimo', 'spiccato']);

interface Member {
  readonly index: number;
  readonly note: LineNote;
}

/**
 * Finds the members of a series that lack its mark, hairpins that begin elsewhere than in like measures, and the one
 * single dot among double dots.
 * Shape:  in the order of the music, one entry for each measure, note and sign
 * Units:  printed measure numbers
 */
export function oddOnesOut(
  score: Score,
  line: SoloLine,
  { hairpins, clusters }: { hairpins: Inventory['hairpins']; clusters: readonly (readonly number[])[] },
): OddOneOut[] {
  const found = new Map<string, OddOneOut & { readonly index: number }>();
  const add = (index: number, odd: Omit<OddOneOut, 'measure'>): void => {
    const key = `${index}|${odd.note}|${odd.what}`;
    if (!found.has(key)) found.set(key, { index, measure: score.measures[index]?.number ?? '', ...odd });
  };
  const series = clusters.filter(({ length }) => length > FEWEST_BEARERS);
  for (const cluster of series) missingSigns(score, line, { cluster, add });
  missingOnDownbeats(line, add);
  const hairpinsOf = hairpinStarts(score, hairpins);
  for (const cluster of series) oddHairpins(cluster, hairpinsOf, add);
  // What leaves its series already is no model for its twins.
  const isKnown = (index: number, kind: string): boolean =>
    [...found.values()].some((odd) => odd.index === index && odd.what === kind);
  for (const twins of twinMeasures(line)) unlikeHairpins(twins, { hairpinsOf, isKnown, score }, add);
  oddDots(line, add);
  return [...found.values()]
    .sort((a, b) => a.index - b.index || a.note - b.note)
    .map(({ measure, note, what, why }) => ({ measure, note, what, why }));
}

type Add = (index: number, odd: Omit<OddOneOut, 'measure'>) => void;

/** In measures of one rhythm: a sign that most have at one note. */
function missingSigns(
  { measures }: Score,
  { played }: SoloLine,
  { cluster, add }: { readonly cluster: readonly number[]; readonly add: Add },
): void {
  const isMarked = (from: number, to: number): boolean =>
    measures.slice(from, to + 1).some(({ rehearsal }) => rehearsal !== null);
  // Measures of one rhythm have equally many notes.
  const noteCount = played[cluster[0] ?? 0]?.length ?? 0;
  for (let n = 0; n < noteCount; n += 1) {
    const members = cluster.flatMap((index): Member[] => {
      const note = played[index]?.[n];
      return note ? [{ note, index }] : [];
    });
    for (const sign of signsOf(members)) {
      const bearers = members.filter(({ note }) => note.signs.articulations.includes(sign));
      if (!isSeries(bearers.length, members.length)) continue;
      const [first, last] = [bearers[0]?.index ?? 0, bearers.at(-1)?.index ?? 0];
      // Before the first and after the last bearer another section may have begun; behind a rehearsal mark it has.
      const inside = members.filter(
        ({ index }) =>
          index >= first - LARGEST_GAP &&
          index <= last + LARGEST_GAP &&
          !isMarked(index + 1, first) &&
          !isMarked(last + 1, index),
      );
      reportMissing(inside, bearers.length, { sign, add });
    }
  }
}

function isSeries(bearers: number, members: number): boolean {
  return bearers >= FEWEST_BEARERS && bearers < members && bearers / members >= SMALLEST_SHARE;
}

function signsOf(members: readonly Member[]): Set<string> {
  return new Set(members.flatMap(({ note }) => note.signs.articulations));
}

function reportMissing(
  members: readonly Member[],
  bearers: number,
  { sign, add }: { readonly sign: string; readonly add: Add },
): void {
  for (const { index, note } of members) {
    if (note.signs.articulations.includes(sign)) continue;
    // Slurred on purpose is no missing staccato.
    if (SHORT.has(sign) && (note.isSlurredInto || note.signs.slurStarts > 0)) continue;
    add(index, {
      note: note.ordinal,
      what: sign,
      why: `no ${sign} on note ${note.ordinal}, where ${bearers} like measures have one`,
    });
  }
}

/** On the first note of neighbouring measures, whatever their rhythm. */
function missingOnDownbeats({ played }: SoloLine, add: Add): void {
  const members = played.flatMap(([note], index): Member[] => {
    return note && toNumber(note.onset) === 0 ? [{ index, note }] : [];
  });
  for (const sign of signsOf(members)) {
    let section: Member[] = [];
    let lacking = 0;
    const close = (): void => {
      const inside = section.slice(0, section.length - lacking);
      const bearing = inside.filter(({ note }) => note.signs.articulations.includes(sign));
      // The long note that ends a phrase is no member.
      const longest = Math.max(...bearing.map(({ note }) => note.length));
      const alike = inside.filter(
        ({ note }) => note.length < 2 * longest || bearing.some((one) => one.note === note),
      );
      if (isSeries(bearing.length, alike.length)) reportMissing(alike, bearing.length, { sign, add });
      section = [];
      lacking = 0;
    };
    for (const member of members) {
      const has = member.note.signs.articulations.includes(sign);
      if (!has && section.length === 0) continue;
      section.push(member);
      lacking = has ? 0 : lacking + 1;
      if (lacking > LARGEST_GAP) close();
    }
    close();
  }
}

const KINDS = ['crescendo', 'diminuendo'] as const;

/** On which notes the hairpins of a kind begin in a measure. */
type HairpinStarts = (index: number, kind: (typeof KINDS)[number]) => readonly number[];

function hairpinStarts({ measures }: Score, hairpins: Inventory['hairpins']): HairpinStarts {
  const starts = groupBy(hairpins, ({ kind, measure }) => `${kind} ${measure}`);
  return (index, kind) =>
    (starts.get(`${kind} ${measures[index]?.number ?? ''}`) ?? []).map(({ startNote }) => startNote);
}

/** In measures of one rhythm: hairpins that begin on another note than most. */
function oddHairpins(cluster: readonly number[], hairpinsOf: HairpinStarts, add: Add): void {
  for (const kind of KINDS) {
    const own = cluster.flatMap((index) =>
      hairpinsOf(index, kind).map((startNote) => ({ index, startNote })),
    );
    const usual = mostFrequent(own.map(({ startNote }) => startNote));
    const agreeing = own.filter(({ startNote }) => startNote === usual).length;
    if (usual === null || !isSeries(agreeing, own.length)) continue;
    for (const { index, startNote } of own)
      if (startNote !== usual)
        add(index, {
          note: startNote,
          what: kind,
          why: `the ${kind} begins on note ${startNote}, in ${agreeing} like measures on note ${usual}`,
        });
  }
}

/** Measures with the same notes, two and more. */
function twinMeasures({ played }: SoloLine): readonly (readonly number[])[] {
  const alike = groupBy([...played.entries()], ([, notes]) =>
    JSON.stringify(
      notes.map(({ midi, onset, length }) => [midi, toNumber(onset).toFixed(4), length.toFixed(4)]),
    ),
  );
  return [...alike.values()]
    .map((members) => members.map(([index]) => index))
    .filter(([first, ...others]) => others.length > 0 && (played[first ?? 0]?.length ?? 0) > 1);
}

/** In measures of the same notes even two say something: the hairpin of one begins elsewhere. */
function unlikeHairpins(
  twins: readonly number[],
  {
    hairpinsOf,
    isKnown,
    score,
  }: {
    readonly hairpinsOf: HairpinStarts;
    readonly isKnown: (index: number, kind: string) => boolean;
    readonly score: Score;
  },
  add: Add,
): void {
  for (const kind of KINDS) {
    const own = twins.flatMap((index) => {
      const starts = hairpinsOf(index, kind);
      const [startNote] = starts;
      const isOne = starts.length === 1 && startNote !== undefined;
      return isOne && !isKnown(index, kind) ? [{ index, startNote }] : [];
    });
    const usual = mostFrequent(own.map(({ startNote }) => startNote));
    const model = own.find(({ startNote }) => startNote === usual);
    if (!model) continue;
    for (const { index, startNote } of own)
      if (startNote !== usual)
        add(index, {
          note: startNote,
          what: kind,
          why: `the ${kind} begins on note ${startNote}, in the like measure ${score.measures[model.index]?.number ?? ''} on note ${usual}`,
        });
  }
}

function mostFrequent<T>(values: readonly T[]): T | null {
  return [...countBy(values)].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
}

/** Notes of one value at one place of the measure, and such that follow each other closely: their dots. */
function oddDots({ played }: SoloLine, add: Add): void {
  const dotted = played.flatMap((own, index) =>
    own.filter(({ signs }) => signs.dots > 0).map((note): Member => ({ index, note })),
  );
  const typeOf = ({ note }: Member): string => note.signs.noteType ?? '';
  const places = groupBy(dotted, (one) => `${toNumber(one.note.onset).toFixed(4)}|${typeOf(one)}`);
  for (const members of places.values())
    reportDots(members, (agreeing) => isSeries(agreeing, members.length), add);
  for (const members of groupBy(dotted, typeOf).values())
    for (const row of closeRows(members)) {
      reportDots(row, (agreeing) => isSeries(agreeing, row.length), add);
      // Double dots are so rare that two of them make a single one between them odd.
      const isDouble = ({ note }: Member): boolean => note.signs.dots === 2;
      const between = row.slice(row.findIndex(isDouble), row.findLastIndex(isDouble) + 1);
      reportDots(between, (agreeing) => agreeing >= 2 && between.length - agreeing === 1, add);
    }
}

/** Members that lie no more than one measure apart. */
function closeRows(members: readonly Member[]): Member[][] {
  const rows: Member[][] = [];
  for (const member of members) {
    const row = rows.at(-1);
    if (row && member.index - (row.at(-1)?.index ?? 0) <= LARGEST_GAP + 1) row.push(member);
    else rows.push([member]);
  }
  return rows;
}

function reportDots(members: readonly Member[], isOdd: (agreeing: number) => boolean, add: Add): void {
  const usual = mostFrequent(members.map(({ note }) => note.signs.dots));
  const agreeing = members.filter(({ note }) => note.signs.dots === usual).length;
  if (usual === null || agreeing === members.length || !isOdd(agreeing)) return;
  for (const { index, note } of members)
    if (note.signs.dots !== usual)
      add(index, {
        note: note.ordinal,
        what: dotsText(note.signs.dots),
        why: `a ${dotsText(note.signs.dots)} here, a ${dotsText(usual)} in ${agreeing} like places`,
      });
}

function dotsText(dots: number): string {
  return dots === 1 ? 'single dot' : dots === 2 ? 'double dot' : `${dots} dots`;
}
