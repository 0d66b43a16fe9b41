import { blankPart } from '@vivid-cue/core/sheet';
import { sheetChangeSchema, type SheetChange } from '@vivid-cue/contract';
import { issuesOf, passedText } from './sheet-checks';
import { deadlineForm, emptySheet, partForm, sheetForm, sheetFrom } from './sheet-form';
import { fieldsFrom, tempoFrom, unitChoices } from '../ui/tempo-choice';

const ID = '01900000-0000-7000-8000-000000000000';
const tempo = { beatUnit: 'dotted-quarter', bpmMin: 60, bpmMax: 66, bound: 'range', words: null } as const;
const noTempo = { beatUnit: null, bpmMin: null, bpmMax: null, bound: 'none', words: null } as const;
const sheet: SheetChange = {
  body: 'Skerry Board',
  year: '2026-27',
  division: 'Grade 5',
  instrument: 'flute',
  deadlines: [
    {
      id: ID,
      kind: 'recording',
      date: '2027-05-01',
      endDate: null,
      time: null,
      zone: 'Europe/Berlin',
      text: null,
    },
  ],
  parts: [
    {
      ...blankPart('List A', 'etude', ID),
      title: 'Slack Water',
      measures: [
        { from: 29, to: 'end', anchorText: null },
        { from: 1, to: '22A', anchorText: null },
      ],
      scope: { instruments: ['flute'], divisions: [], options: ['List A'] },
      tempo,
      memory: true,
      points: 30,
    },
    { ...blankPart('Aural', 'aural', ID.replace('8000', '8001')), tempo: noTempo },
  ],
};

describe('the sheet’s fields', () => {
  it('give back the sheet they were filled with', () => {
    const { change, issues } = sheetFrom(sheetForm(sheet, 'UTC'));
    expect(change).toEqual(sheet);
    expect(issues).toEqual([]);
    expect(sheetChangeSchema.isValidSync(change, { strict: true })).toBeTrue();
  });

  it('turn what is left blank into nothing and trim what was typed', () => {
    const form = emptySheet('Europe/Berlin', '2027');
    form.patchValue({
      body: '  Skerry Board ',
      deadlines: [{ date: '2027-05-01' }],
      parts: [{ fields: { measures: ' 22a–30 ' } }],
    });
    const { change } = sheetFrom(form);
    expect([change.body, change.deadlines[0]?.time, change.deadlines[0]?.zone]).toEqual([
      'Skerry Board',
      null,
      'Europe/Berlin',
    ]);
    expect(change.parts[0]?.measures.map(({ from, to }) => [from, to])).toEqual([['22A', 30]]);
    expect(change.parts[0]?.tempo).toEqual(noTempo);
    // What was begun is not taken for blank: it needs its number.
    for (const begun of [{ printed: 'q =' }, { bound: 'min' as const }]) {
      form.patchValue({ parts: [{ printed: '', bound: 'exact', ...begun }] });
      expect(issuesOf(sheetFrom(form).change).map(({ message }) => message)).toContain(
        'A tempo needs its number and its note value.',
      );
    }
  });

  it('spread every kind of tempo over the fields and read it back', () => {
    const marks = [
      tempo,
      { beatUnit: 'quarter', bpmMin: 116, bpmMax: 116, bound: 'exact', words: 'Con moto' },
      { beatUnit: 'half', bpmMin: 60, bpmMax: 60, bound: 'about', words: null },
      { beatUnit: 'eighth', bpmMin: 144, bpmMax: null, bound: 'min', words: null },
      { beatUnit: 'quarter', bpmMin: null, bpmMax: 100, bound: 'max', words: null },
      { beatUnit: null, bpmMin: null, bpmMax: null, bound: 'words', words: 'Allegro' },
      noTempo,
    ] as const;
    for (const mark of marks)
      expect(tempoFrom(fieldsFrom(mark)))
        .withContext(mark.bound)
        .toEqual(mark);
  });

  it('name the field that cannot be read, and keep the others', () => {
    const form = sheetForm(sheet, 'UTC');
    form.patchValue({ parts: [{ fields: { octaves: 'two', measures: '30-4', points: '40' } }] });
    const { change, issues } = sheetFrom(form);
    expect(issues.map(({ where }) => where).sort()).toEqual(['parts[0].measures', 'parts[0].octaves']);
    expect([change.parts[0]?.points, change.parts[0]?.scope]).toEqual([40, sheet.parts[0]?.scope]);
  });

  it('warn of a date that has passed by the body’s clock, and of no other', () => {
    const now = Date.parse('2027-03-10T02:00:00Z');
    const said = (known: Partial<SheetChange['deadlines'][number]>): string => {
      const form = deadlineForm('America/New_York');
      form.patchValue({ kind: 'recording', ...known } as never);
      return passedText(form, now, 'America/New_York');
    };
    expect(said({ date: '2026-03-09' })).toBe('Passed 365 days ago. Is the year right?');
    // Nine in the evening in New York: the day runs on there, and is over in Reykjavik.
    expect(said({ date: '2027-03-09' })).toBe('');
    expect(said({ date: '2027-03-09', time: '20:30' })).toBe('Passed today. Is the year right?');
    expect(said({ date: '2027-03-09', zone: 'Atlantic/Reykjavik' })).toBe('Passed today. Is the year right?');
    expect(said({ date: '2027-03-01', endDate: '2027-03-12' })).toBe('');
    expect([said({}), said({ date: '2027-02-01', zone: 'Nowhere' })]).toEqual(['', '']);
  });

  it('give each new part an identifier of its own and speak the studio’s words', () => {
    expect(partForm().value.id).not.toBe(partForm().value.id);
    expect(unitChoices('uk').find(({ value }) => value === 'dotted-quarter')?.label).toContain(
      'dotted crotchet',
    );
  });
});
