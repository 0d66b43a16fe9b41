import { blankPart } from '@vivid-cue/core/sheet';
import type { Schema } from 'yup';
import {
  pathOf,
  passageInputSchema,
  repInputSchema,
  ROUTES,
  sheetInputSchema,
  signInSchema,
  studentInputSchema,
  tempoSchema,
  type RouteName,
} from './index.js';

const ID = '01900000-0000-7000-8000-000000000000';
const refused = (schema: Schema, value: unknown): boolean => !schema.isValidSync(value, { strict: true });

describe('what crosses the wire', () => {
  const tempo = { beatUnit: 'quarter', bpmMin: 96, bpmMax: 96, bound: 'exact', words: null };

  it('takes a tempo with exactly the numbers that its bound wants', () => {
    const good = [
      tempo,
      { ...tempo, bound: 'range', bpmMax: 104 },
      { ...tempo, bound: 'min', bpmMax: null },
      { ...tempo, bound: 'max', bpmMin: null },
      { beatUnit: null, bpmMin: null, bpmMax: null, bound: 'words', words: 'Allegro' },
      { beatUnit: null, bpmMin: null, bpmMax: null, bound: 'none', words: null },
    ];
    expect(good.map((value) => refused(tempoSchema, value))).toEqual(good.map(() => false));
    const bad = [
      { ...tempo, beatUnit: null },
      { ...tempo, bpmMax: null },
      { ...tempo, bound: 'min' },
      { ...tempo, bound: 'range', bpmMin: 104, bpmMax: 96 },
      { ...tempo, bound: 'words' },
      { ...tempo, bpmMin: 0, bpmMax: 0 },
      { ...tempo, bpmMin: 900, bpmMax: 900 },
      { ...tempo, bpmMin: '96', bpmMax: '96' },
      { ...tempo, beatUnit: 'crotchet' },
      { ...tempo, swing: true },
    ];
    expect(bad.map((value) => refused(tempoSchema, value))).toEqual(bad.map(() => true));
  });

  it('takes only days that exist and both ends of a span or none', () => {
    const run = { from: 1, to: '22A', anchorText: null };
    const part = { ...blankPart('Etude', 'etude', ID), measures: [run], tempo };
    const deadline = { id: ID, kind: 'audition', date: '2028-02-29', time: null, zone: 'UTC' };
    const sheet = {
      id: ID,
      body: 'Skerry Board',
      year: '2026-27',
      division: '',
      instrument: 'flute',
      deadlines: [deadline],
      parts: [part],
    };
    expect(refused(sheetInputSchema, sheet)).toBeFalse();
    // A sheet may name no date at all, or one without its day.
    expect(refused(sheetInputSchema, { ...sheet, deadlines: [] })).toBeFalse();
    expect(refused(sheetInputSchema, { ...sheet, deadlines: [{ ...deadline, date: null }] })).toBeFalse();
    const withDate = (change: object): object => ({ ...sheet, deadlines: [{ ...deadline, ...change }] });
    const withPart = (change: object): object => ({ ...sheet, parts: [{ ...part, ...change }] });
    const bad = [
      withDate({ date: '2027-02-29' }),
      withDate({ date: '2027-04-31' }),
      withDate({ date: '29.2.2028' }),
      withDate({ time: '24:00' }),
      withPart({ to: null }),
      withPart({ from: '1-2' }),
      withPart({ label: '' }),
      { ...sheet, parts: [] },
      { ...sheet, year: "'27" },
    ];
    expect(bad.map((value) => refused(sheetInputSchema, value))).toEqual(bad.map(() => true));
  });

  it('asks little of a student and refuses what was not asked', () => {
    const student = { id: ID, name: 'Ilse', instrument: 'clarinet' };
    expect(refused(studentInputSchema, student)).toBeFalse();
    expect(refused(studentInputSchema, { ...student, birthday: '2010-01-01' })).toBeTrue();
    expect(refused(studentInputSchema, { ...student, name: 'x'.repeat(121) })).toBeTrue();
    expect(refused(studentInputSchema, { ...student, id: ID.replace('-7000-', '-4000-') })).toBeTrue();
  });

  it('takes reps as facts: an instant in UTC, a tempo, a context, clean or not', () => {
    const rep = {
      id: ID,
      at: '2027-03-10T12:00:00.000Z',
      bpm: 58,
      beatUnit: 'quarter',
      context: 'alone',
      isClean: true,
    };
    expect(refused(repInputSchema, rep)).toBeFalse();
    const bad = [
      { at: '2027-03-10 12:00' },
      { bpm: 5 },
      { context: 'at home' },
      { isClean: 'yes' },
      { isClean: undefined },
    ];
    expect(bad.map((change) => refused(repInputSchema, { ...rep, ...change }))).toEqual(bad.map(() => true));
    expect(
      refused(passageInputSchema, {
        id: ID,
        name: '',
        from: '9',
        to: '12',
        target: { bpm: 100, beatUnit: 'eighth' },
      }),
    ).toBeFalse();
  });

  it('says in a sentence what is missing', () => {
    let message = '';
    try {
      signInSchema.validateSync({ email: 'nobody', password: 'x' }, { strict: true });
    } catch (error) {
      message = (error as Error).message;
    }
    expect(message).toBe('Write an e-mail address such as name@studio.example.');
  });
});

describe('the route table', () => {
  it('names every route once and fills identifiers in safely', () => {
    const names = Object.keys(ROUTES) as RouteName[];
    expect(new Set(names.map((name) => `${ROUTES[name].method} ${ROUTES[name].path}`)).size).toBe(
      names.length,
    );
    expect(pathOf('readStudent', { studentId: 'a/../b' })).toBe('/api/students/a%2F..%2Fb');
    expect(names.filter((name) => ROUTES[name].access === 'open')).toEqual([
      'readSession',
      'signIn',
      'createAccount',
      'restoreStudio',
      'readCalendar',
      'readListenerSession',
      'enterListening',
      'readDeskSession',
      'enterDesk',
    ]);
  });
});
