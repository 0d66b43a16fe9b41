import { readSheet, withKnownParts, type Correction, type KnownPart } from '@vivid-cue/core/sheet';
import { sheetFromStructure } from '@vivid-cue/contract';
import { asRead, mergeReading, type DeskContent } from './merge-reading';
import { sheetForm } from './sheet-form';

const TEXT = `Skerrin Youth Winds 2027
Etude 1: no. 4, p. 9, mm. 1-24, quarter = 60
Etude 2: no. 7, p. 12, mm. 1-40, quarter = 120
Bring a stand to the hall on the day itself.
Auditions: May 1, 2027
`;

let known: readonly KnownPart[] = [];

/** What a text reads as on a desk, with the parts that it had before. */
function reading(text: string, corrections: readonly Correction[] = []): DeskContent {
  const read = withKnownParts(readSheet(text, nextId, corrections), known);
  known = read.known;
  const change = sheetFromStructure(read.reading.sheet, { zone: 'UTC', newId: nextId });
  const { choices = [], notes = [], questions = [] } = change;
  const deadlines = change.deadlines.map((one) => ({ ...one, id: one.text ?? '' }));
  return {
    fields: sheetForm({ ...change, deadlines }, 'UTC').getRawValue(),
    rest: { choices, notes, questions, publishedText: text },
  };
}

let last = 0;
function nextId(): string {
  last += 1;
  return `id-${last}`;
}

type Part = DeskContent['fields']['parts'][number];

function withParts(content: DeskContent, change: (parts: readonly Part[]) => Part[]): DeskContent {
  return { ...content, fields: { ...content.fields, parts: change(content.fields.parts) } };
}

function typed(part: Part | undefined, fields: Partial<Part['fields']>): Part {
  if (!part) throw new Error('the text has that part');
  return { ...part, fields: { ...part.fields, ...fields } };
}

const shown = ({ fields }: DeskContent): string[] =>
  fields.parts.map(({ fields: own, low }) => `${own.label} ${own.number} ${own.page} ${own.measures} ${low}`);

describe('mergeReading', () => {
  let base: DeskContent;
  beforeEach(() => {
    known = [];
    base = reading(TEXT);
  });

  it('follows the new reading where nothing was typed', () => {
    const next = reading(TEXT.replace('p. 12', 'p. 13'));
    expect(shown(mergeReading(base, base, next))).toEqual(['Etude 1 4 9 1–24 60', 'Etude 2 7 13 1–40 120']);
  });

  it('keeps what was typed, in its field alone, and a tempo as one thing', () => {
    const mine = withParts(base, ([one, two]) => [
      typed(one, { page: '99' }),
      { ...typed(two, {}), low: 100, bound: 'min' },
    ]);
    const next = reading(TEXT.replace('p. 9', 'p. 10').replace('= 120', '= 126').replace('no. 4', 'no. 5'));
    const merged = mergeReading(mine, base, next);
    expect(shown(merged)).toEqual(['Etude 1 5 99 1–24 60', 'Etude 2 7 12 1–40 100']);
    expect(merged.fields.parts[1]?.bound).toBe('min');
  });

  it('keeps parts that were added, taken away or moved by hand', () => {
    const own = { ...typed(base.fields.parts[0], { label: 'My own' }), id: 'mine' };
    const mine = withParts(base, ([one, two]) => [two, one, own].filter((part) => part !== undefined));
    const again = reading(`${TEXT}Etude 3: no. 9, p. 15, mm. 1-8, quarter = 80\n`);
    expect(shown(mergeReading(mine, base, again)).map((line) => line.slice(0, 7))).toEqual([
      'Etude 2',
      'Etude 1',
      'My own ',
      'Etude 3',
    ]);
    const without = withParts(base, (parts) => parts.slice(1));
    expect(shown(mergeReading(without, base, reading(TEXT)))).toEqual(['Etude 2 7 12 1–40 120']);
  });

  it('lets go of a part that the text no longer begins, unless somebody worked in it', () => {
    const next = reading(TEXT.replace(/Etude 2.*\n/u, ''));
    expect(shown(mergeReading(base, base, next))).toEqual(['Etude 1 4 9 1–24 60']);
    const mine = withParts(base, ([one, two]) => [typed(one, {}), typed(two, { articulation: 'slurred' })]);
    expect(shown(mergeReading(mine, base, next)).length).toBe(2);
  });

  it('keeps a date, a heading and notes that were changed, and answers that were given', () => {
    const question = { partId: null, about: 'year', ask: 'Which year?', candidates: [] };
    const open = { ...question, answer: null, reason: null };
    const asked = { ...base, rest: { ...base.rest, questions: [open] } };
    const mine: DeskContent = {
      fields: {
        ...base.fields,
        body: 'Skerrin Winds',
        deadlines: base.fields.deadlines.map((one) => ({ ...one, time: '10:00' })),
      },
      rest: {
        ...asked.rest,
        notes: [{ kind: 'other', text: 'My own note.' }],
        questions: [{ ...open, answer: '2027', reason: 'the flyer' }],
      },
    };
    const next = reading(`${TEXT}A new rule holds for everybody who plays in the hall.\n`);
    const merged = mergeReading(mine, asked, { ...next, rest: { ...next.rest, questions: [open] } });
    expect([merged.fields.body, merged.fields.deadlines[0]?.time]).toEqual(['Skerrin Winds', '10:00']);
    expect(merged.rest.notes?.map(({ text }) => text)).toEqual([
      'My own note.',
      'A new rule holds for everybody who plays in the hall.',
    ]);
    expect(merged.rest.questions?.[0]?.answer).toBe('2027');
  });

  it('takes one field as it was read again, so that what is said of it next holds', () => {
    const id = base.fields.parts[0]?.id ?? '';
    const mine = withParts(base, ([one, two]) => [typed(one, { page: '99', number: '3' }), typed(two, {})]);
    const next = reading(TEXT.replace('p. 9', 'p. 10'));
    const merged = mergeReading(asRead(mine, base, { id, field: 'page' }), base, next);
    expect(shown(merged)[0]).toBe('Etude 1 3 10 1–24 60');
  });
});
