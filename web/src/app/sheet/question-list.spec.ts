import { blankPart } from '@vivid-cue/core/sheet';
import type { AskedQuestion } from '@vivid-cue/contract';
import { show, type Shown } from '../testing/shown';
import { applyAnswer, splitByKeys, takeAnswer, withAnswer, type Answer } from './answers';
import { QuestionList } from './question-list';
import { deadlineForm, sheetForm, sheetFrom, type SheetForm, type SheetRest } from './sheet-form';

const id = (n: number): string => `01900000-0000-7000-8000-${String(n).padStart(12, '0')}`;
const ask = (change: Partial<AskedQuestion> = {}): AskedQuestion => ({
  partId: id(1),
  about: 'Etude 1/tempo',
  ask: 'What is the target tempo?',
  candidates: [],
  answer: null,
  reason: null,
  ...change,
});
const mark = { beatUnit: 'quarter', bpmMin: 96, bpmMax: 96, bound: 'exact', words: null } as const;

describe('QuestionList', () => {
  let list: Shown<QuestionList>;
  let answers: Answer[];
  let reopened: AskedQuestion[];

  const open = async (questions: readonly AskedQuestion[]): Promise<void> => {
    [answers, reopened] = [[], []];
    const parts = [{ id: id(1), label: 'Etude 1 (clarinet)', group: '' }];
    list = await show(QuestionList, { questions, parts }, []);
    list.fixture.componentInstance.answeredNow.subscribe((answer) => answers.push(answer));
    list.fixture.componentInstance.reopened.subscribe((question) => reopened.push(question));
  };

  it('offers the readings in the words of the trade; one press answers, with the reason beside', async () => {
    await open([ask({ candidates: [mark, { ...mark, beatUnit: 'half' }] })]);
    expect(list.text).toContain('Etude 1 (clarinet), tempo');
    await list.type('.why', 'the chair said so');
    await list.press('♩=96');
    expect(answers).toEqual([
      {
        question: jasmine.anything() as unknown as AskedQuestion,
        candidate: mark,
        text: '♩=96',
        reason: 'the chair said so',
      },
    ]);
  });

  it('takes an own answer by Enter, and nothing for an answer', async () => {
    await open([ask()]);
    await list.press('Answer');
    expect(answers).toEqual([]);
    await list.type('.own', ' quarter = 100 ');
    await list.key('Enter', list.find('.own'));
    expect(answers.map(({ text, candidate }) => [text, candidate])).toEqual([['quarter = 100', undefined]]);
  });

  it('keeps what was answered with its reason, to be asked again', async () => {
    await open([
      ask({ answer: '♩=96', reason: 'last year’s sheet' }),
      ask({ ask: 'Which edition?', about: 'Etude 1/edition' }),
    ]);
    expect(list.find('li.done').textContent).toContain('because last year’s sheet');
    expect(list.host.querySelectorAll('li:not(.done)').length).toBe(1);
    await list.press('ask again');
    expect(reopened.map((question) => question.about)).toEqual(['Etude 1/tempo']);
  });

  it('keeps two questions of one part apart while both are written at', async () => {
    await open([ask(), ask({ ask: 'Which edition?', about: 'Etude 1/edition' })]);
    const [first, second] = list.host.querySelectorAll<HTMLInputElement>('.own');
    for (const [field, text] of [
      [first, 'quarter = 100'],
      [second, 'revised'],
    ] as const) {
      if (field) field.value = text;
      field?.dispatchEvent(new Event('input'));
    }
    await list.settled();
    await list.key('Enter', second);
    expect(answers.map(({ text, question }) => [text, question.about])).toEqual([
      ['revised', 'Etude 1/edition'],
    ]);
    expect(first?.value).toBe('quarter = 100');
  });
});

describe('an answer', () => {
  const form = (): SheetForm =>
    sheetForm(
      {
        body: '',
        year: '',
        division: '',
        instrument: 'clarinet',
        deadlines: [
          { id: id(30), kind: 'audition', date: null, endDate: null, time: null, zone: 'UTC', text: null },
        ],
        parts: [blankPart('Scales', 'scale', id(1)), blankPart('Scales', 'scale', id(2))],
      },
      'UTC',
    );
  const formParts = (sheet: SheetForm) => sheetFrom(sheet).change.parts;
  const given = (question: AskedQuestion, text: string, candidate?: unknown): Answer => ({
    question,
    candidate,
    text,
    reason: '',
  });

  it('goes into the field that it is about, of the part that it is about', () => {
    const sheet = form();
    expect(applyAnswer(sheet, given(ask({ partId: id(2), about: 'Scales/octaves' }), '3'))).toBeTrue();
    expect(applyAnswer(sheet, given(ask({ partId: null, about: 'year' }), '2027'))).toBeTrue();
    expect(
      applyAnswer(sheet, given(ask({ partId: null, about: 'deadlines[audition]/date' }), 'Sat, 2027-02-06')),
    ).toBeTrue();
    expect(
      applyAnswer(sheet, given(ask({ partId: null, about: 'deadlines[audition]/time' }), 'at 9:30')),
    ).toBeTrue();
    const [first, second] = formParts(sheet);
    expect([first?.octaves ?? null, second?.octaves]).toEqual([null, 3]);
    expect(sheet.controls.year.value).toBe('2027');
    expect(sheet.controls.deadlines.at(0).controls.date.value).toBe('2027-02-06');
    expect(sheet.controls.deadlines.at(0).controls.time.value).toBe('09:30');
  });

  it('with a year fills every date that waited for it, and no other', () => {
    const sheet = form();
    const dates = sheet.controls.deadlines;
    dates.at(0).controls.text.setValue('Auditions: Saturday, February 13');
    const recording = deadlineForm('UTC');
    recording.patchValue({ kind: 'recording', text: 'Recordings due December 4' });
    const known = deadlineForm('UTC');
    known.patchValue({ date: '2026-11-30', text: 'Registration closes November 29' });
    dates.push(recording);
    dates.push(known);
    const days = (): string[] => dates.controls.map(({ controls }) => controls.date.value);
    const asked = ask({ partId: null, about: 'deadlines[recording]/date' });
    expect(applyAnswer(sheet, given(asked, 'next winter'))).toBeFalse();
    expect(applyAnswer(sheet, given(asked, '2026-27'))).toBeTrue();
    expect(days()).toEqual(['2027-02-13', '2026-12-04', '2026-11-30']);
  });

  it('is only kept where it fits no field', () => {
    const sheet = form();
    const before = JSON.stringify(sheet.getRawValue());
    expect(applyAnswer(sheet, given(ask({ about: 'Scales/octaves' }), 'as many as you like'))).toBeFalse();
    expect(applyAnswer(sheet, given(ask({ about: 'Scales/mood' }), 'cheerful'))).toBeFalse();
    expect(applyAnswer(sheet, given(ask({ partId: id(77) }), '♩ = 96'))).toBeFalse();
    expect(JSON.stringify(sheet.getRawValue())).toBe(before);
  });

  it('makes a part of each key of a line where the line means several scales', () => {
    const sheet = form();
    const keys = ask({ about: 'Scales/key', candidates: ['C major', 'F major'] });
    takeAnswer(sheet, given(keys, 'yes, each of them'));
    expect(formParts(sheet).map(({ label, key }) => [label, key])).toEqual([
      ['Scales: C major', 'C major'],
      ['Scales: F major', 'F major'],
      ['Scales', null],
    ]);
    const ids = formParts(sheet).map((part) => part.id);
    expect([ids[0], new Set(ids).size]).toEqual([id(1), 3]);
    splitByKeys(sheet, id(99), ['C major']);
    expect(formParts(sheet).length).toBe(3);
  });

  it('is kept with its reason and taken back whole', () => {
    const rest = { questions: [ask(), ask({ partId: id(2) })] } as unknown as SheetRest;
    const answered = withAnswer(rest, ask(), { text: '♩=96', reason: 'old sheet' });
    expect(answered.questions?.map(({ answer }) => answer)).toEqual(['♩=96', null]);
    expect(withAnswer(answered, ask(), null).questions).toEqual(rest.questions);
  });
});
