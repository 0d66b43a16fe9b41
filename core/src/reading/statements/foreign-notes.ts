import { capital, groupBy } from '../../base/index.js';
import { alterInKey, letterName } from '../../music/index.js';
import { raw, type Finder, type Reading } from '../findings/finding-parts.js';
import type { RawFinding } from '../findings/finding.js';
import { scaleOf } from '../inventory/runs.js';
import { isWritten, type WrittenNote } from '../line/solo-line.js';
import { listed, measuresText, runsIn, spanText } from './places.js';

/** An alteration against the key that comes at most so often is worth naming; in one measure once more. */
const RARE_COUNT = 2;
/** So many foreign names in neighbouring measures leave the key. */
const FEWEST_FOREIGN = 3;
/** Two names do, where they last so long. Units: measures, notes. */
const LONG_MEASURES = 3;
const LONG_NOTES = 4;

/**
 * Notes against the key: a passage that leaves it, alterations that hardly ever come, signs that are read over.
 * Shape:  a passage of three and more foreign names, or of two that last, is one finding; a name that the key has elsewhere is never rare
 * Units:  spelled names, counted over all that is asked
 * Source: circle of fifths; the rest is common practice, no source
 */
export const foreignNotes: Finder = (from) => [...passages(from), ...rareNotes(from), ...surprising(from)];

function foreignIn({ score: { measures }, line }: Reading): WrittenNote[] {
  return line.notes.filter(isWritten).filter(({ written, measureIndex, isGrace }) => {
    const fifths = measures[measureIndex]?.fifths ?? 0;
    return !isGrace && written.alter !== alterInKey(written.step, fifths);
  });
}

function passages(from: Reading): RawFinding[] {
  const { score, line } = from;
  const byMeasure = groupBy(foreignIn(from), ({ measureIndex }) => measureIndex);
  return runsIn([...byMeasure.keys()]).flatMap(([first, last]) => {
    const all = line.byMeasure.slice(first, last + 1).flatMap((notes) => notes.filter(isWritten));
    const foreign = [...byMeasure]
      .filter(([index]) => index >= first && index <= last)
      .flatMap(([, notes]) => notes);
    const names = [...new Set(foreign.map(({ written }) => letterName(written)))];
    const fifths = score.measures[first]?.fifths ?? 0;
    const isLong = names.length === 2 && last - first >= LONG_MEASURES - 1 && foreign.length >= LONG_NOTES;
    if (names.length < FEWEST_FOREIGN && !(isLong && isOneWay(foreign, fifths))) return [];
    const key = scaleOf(all, fifths) ?? (isChromatic(all) ? 'chromatic' : null);
    const where = spanText(score, first, last);
    return [
      raw('off-key', {
        title: `${where} ${first === last ? 'leaves' : 'leave'} the key${key === null ? '' : `: ${key}`}.`,
        sentence: `${listed(names.map(named))} against the signature: name the new scale and play it once by itself.`,
        places: Array.from({ length: last - first + 1 }, (_, n) => first + n),
        notes: foreign.map(({ measureIndex, ordinal }) => ({ index: measureIndex, note: ordinal })),
        detail: names.join(' '),
      }),
    ];
  });
}

/** Whether all are lowered or all are raised, as in another key. */
function isOneWay(notes: readonly WrittenNote[], fifths: number): boolean {
  const ways = new Set(
    notes.map(({ written }) => Math.sign(written.alter - alterInKey(written.step, fifths))),
  );
  return ways.size === 1;
}

function isChromatic(notes: readonly WrittenNote[]): boolean {
  const steps = notes.slice(1).map(({ midi }, n) => Math.abs(midi - (notes[n]?.midi ?? midi)));
  return steps.filter((step) => step === 1).length >= 0.6 * steps.length;
}

/** Alterations off the key that stand only here and there. */
function rareNotes(from: Reading): RawFinding[] {
  const everywhere = groupBy(from.line.notes.filter(isWritten), ({ written }) => letterName(written));
  return [...groupBy(foreignIn(from), ({ written }) => letterName(written))].flatMap(([name, notes]) => {
    const places = [...new Set(notes.map(({ measureIndex }) => measureIndex))];
    const isRare = notes.length <= RARE_COUNT || (notes.length === RARE_COUNT + 1 && places.length === 1);
    // Where the key had it before, it is no stranger.
    if (!isRare || (everywhere.get(name)?.length ?? 0) > notes.length) return [];
    return [
      raw('rare-note', {
        title:
          notes.length === 1
            ? `The only ${named(name)} in the piece.`
            : `${named(name)} comes ${notes.length === 2 ? 'twice' : 'three times'}.`,
        sentence: `In ${measuresText(from.score, places)}; everywhere else ${name[0] ?? ''} is as the key has it.`,
        places,
        notes: notes.map(({ measureIndex, ordinal }) => ({ index: measureIndex, note: ordinal })),
        detail: `${name} ${notes.map(({ ordinal }) => ordinal).join(' ')}`,
      }),
    ];
  });
}

/** The same note that is read over for the same reason is one finding. */
function surprising({ score, indexOf, surprises }: Reading): RawFinding[] {
  const all = surprises.filter(({ why }) => !isRarity(why));
  const alike = groupBy(all, ({ note, why }) => `${note.replace(/\d+$/u, '')} ${why.replace(/\d+/gu, '')}`);
  return [...alike.values()].flatMap((own) => {
    const [first] = own;
    if (!first) return [];
    const notes = own.map(({ measure, ordinal }) => ({ index: indexOf(measure), note: ordinal }));
    const places = [...new Set(notes.map(({ index }) => index))];
    const where =
      own.length === 1
        ? `Note ${first.ordinal}, ${first.note}`
        : own.map(({ measure, ordinal }) => `note ${ordinal} in ${measure}`).join(', ');
    return [
      raw('surprise', {
        title: `${named(first.note.replace(/\d+$/u, ''))} is easy to miss${places.length > 1 ? ` in ${measuresText(score, places)}` : ''}.`,
        sentence: `${capital(where)}: ${first.why}.`,
        places,
        notes,
        detail: own.map(({ ordinal, note }) => `${ordinal} ${note}`).join(' '),
      }),
    ];
  });
}

/** Rare alterations have a finding of their own. */
function isRarity(why: string): boolean {
  return /^(?:the only|one of)/u.test(why);
}

/** A natural is named as one: in a key with a flat, B is B♮. */
function named(name: string): string {
  return name.length === 1 ? `${name}♮` : name;
}
