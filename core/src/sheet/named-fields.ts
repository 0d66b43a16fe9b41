import { plainSigns, present } from '../base/index.js';
import { askTempo, type TempoMark } from '../music/index.js';
import { readSpanPhrase } from './find-spans.js';
import { CoverableText } from './found.js';
import { HEAD_KEYED } from './heading-patterns.js';
import { calmLabel, kindOf } from './labels.js';
import { isHeader, type Line } from './lines.js';
import type { PartDraft } from './part-draft.js';
import { readHeadKeyed } from './read-headings.js';
import { readSentences } from './read-sentence.js';
import { mark, openPart, type SheetState } from './sheet-state.js';

const KEYED =
  /^(?<key>title|work|composer|book|source|publication|edition|pages?|measures|bars|tempo|metronome|repeats?|points|marks|key|octaves?|articulation|range|rhythm|note values?|memory|memori[sz](?:ed|ation)|accompaniment|duration|length|time limit|number|no\.)\s*[:\t]\s*(?<value>.+)$/iu;

function fieldOfKey(key: string): string {
  if (/measures|bars/u.test(key)) return 'measures';
  if (/tempo|metronome/u.test(key)) return 'tempo';
  if (/points|marks/u.test(key)) return 'points';
  return /^(?:key|octaves|articulation|range|memory|repeats|accompaniment)$/u.test(key) ? key : 'title';
}

/** "Measures: 1–16": a named field of the part at hand. */
export function readKeyed(state: SheetState, line: Line): boolean {
  const head = HEAD_KEYED.exec(line.plain);
  if (head && line.bullet === null && !/^\d/u.test(head.groups?.value ?? ''))
    return readHeadKeyed(state, line, head);
  const keyed = KEYED.exec(line.plain);
  if (!keyed || !state.current) return false;
  const draft = state.current;
  const value = line.text.slice(line.text.length - (keyed.groups?.value ?? '').length).trim();
  readNamedField(draft, (keyed.groups?.key ?? '').toLowerCase(), value);
  mark(state, line, {
    stretch: { start: 0, end: line.plain.length },
    about: fieldOfKey((keyed.groups?.key ?? '').toLowerCase()),
    draft,
  });
  return true;
}

function readNamedField(draft: PartDraft, key: string, value: string): void {
  if (value === '' || /^[-–—]+$|^n\/?a$/iu.test(value)) return;
  const plainValue = value.replace(/^["“]|["”]$/gu, '').trim();
  if (/^(?:title|work|piece)$/u.test(key)) {
    const line = new CoverableText(value, plainSigns(value));
    if (!/own choice|of your choice/iu.test(value)) draft.read(line, 0, true);
    if (
      !draft.has('title') &&
      !/choice/iu.test(value) &&
      draft.kind !== 'scale' &&
      draft.kind !== 'chromatic'
    )
      draft.add('title', plainValue);
  } else if (key === 'composer') draft.add('composer', plainValue);
  else if (/^(?:book|source|publication)$/u.test(key)) draft.add('book', plainValue);
  else if (key === 'edition') draft.add('edition', plainValue);
  else if (/^(?:no\.?|number|#)$/u.test(key))
    draft.add('number', plainValue.replace(/^(?:no\.?|#)\s*/iu, ''));
  else if (/^p/u.test(key) && /^(?:pages?|pp?\.?)$/u.test(key))
    draft.add('page', plainValue.replace(/^(?:pages?|pp?\.?)\s*/iu, ''));
  else if (/^(?:measures?|bars?|mm\.?)$/u.test(key)) {
    const read = readSpanPhrase(value);
    if ('measures' in read) draft.add('measures', read.measures);
    else
      draft.questions.push({
        partId: draft.id,
        about: `${draft.label}/measures`,
        ask: read.question,
        candidates: read.candidates,
      });
  } else if (/tempo|metronome|speed/u.test(key)) readTempoField(draft, value);
  else if (/points|marks|weight/u.test(key)) {
    const points = /\d+/u.exec(value)?.[0];
    if (points !== undefined) draft.add('points', Number(points));
  } else if (key === 'articulation') draft.add('articulation', value);
  else if (/^octaves?$/u.test(key))
    draft.read(new CoverableText(`${value} octaves`, `${plainSigns(value)} octaves`), 0, false);
  else draft.read(new CoverableText(`${key}: ${value}`, plainSigns(`${key}: ${value}`)), 0, false);
}

function readTempoField(draft: PartDraft, value: string): void {
  const line = new CoverableText(value, plainSigns(value));
  if (draft.kind === 'scale' || draft.kind === 'chromatic') {
    draft.read(line, 0, false);
    return;
  }
  const read = askTempo(value);
  if ('mark' in read) draft.add('tempo', read.mark);
  else if (read.code === 'tempo-without-unit')
    draft.add('tempo', { ...read.candidates[0], beatUnit: null } as TempoMark);
  else
    draft.questions.push({
      partId: draft.id,
      about: `${draft.label}/tempo`,
      ask: read.question,
      candidates: read.candidates,
    });
}

/** Reads a row of a table by the names of its columns. */
export function readRow(state: SheetState, line: Line, n: number): void {
  const cells = present(line.cells);
  if (cells.every(({ text }) => /^[-:=\s|]*$/u.test(text))) return;
  if (isHeader(cells)) {
    state.header = cells;
    mark(state, line, { stretch: { start: 0, end: line.plain.length }, about: 'heading' });
    return;
  }
  const isUnderHeader = state.header !== null && state.lines[n - 1]?.cells;
  if (!isUnderHeader) {
    state.header = null;
    readSentences(state, line, n);
    return;
  }
  const named = cells.map((cell) => ({
    key: (present(state.header).find(({ column }) => column === cell.column)?.text ?? '').toLowerCase(),
    text: cell.text,
  }));
  const label =
    named.find(({ key }) => /^(?:part|item|requirement|component|#)$/u.test(key)) ?? present(named[0]);
  const kind =
    kindOf(label.text) ?? state.context.kind ?? kindOf(named.map(({ text }) => text).join(' ')) ?? 'other';
  const draft = openPart(state, calmLabel(label.text), { kind, line });
  mark(state, line, { stretch: { start: 0, end: line.plain.length }, about: 'label', draft });
  for (const cell of named) {
    if (cell === label) continue;
    readNamedField(draft, cell.key, cell.text);
    if (/choice/iu.test(cell.text) && draft.kind === 'other') draft.kind = 'solo';
  }
}
