import { signal } from '@angular/core';
import { EMPTY, of, throwError, type Observable } from 'rxjs';
import {
  AS_THE_STUDIO,
  type ProgramInput,
  type ProgramPartView,
  type ProgramView,
  type StudentChange,
  type StudentPageView,
} from '@vivid-cue/contract';
import { ScoreAhead } from '../data/score-ahead';
import { SessionStore } from '../data/session-store';
import { StudioApi } from '../data/studio-api';
import { refusal, show, type Shown } from '../testing/shown';
import { StudentPage } from './student-page';

const part = (change: Partial<ProgramPartView> = {}): ProgramPartView => ({
  id: 'pp1',
  label: 'Etude 1',
  kind: 'etude',
  workTitle: 'Harbour Study',
  sourceText: 'no. 17, p. 26, Shoreline Pieces',
  spanText: 'mm. 1–32',
  tempoText: '♩=96',
  hasScore: true,
  scoreTitle: 'Harbour Study',
  state: 'climbing',
  chance: 0.62,
  expectedSlips: 0.5,
  sentence: '“the run” decides.',
  ribbon: [],
  passages: 2,
  lastRepAt: null,
  ...change,
});
const program = (change: Partial<ProgramView> = {}): ProgramView => ({
  id: 'p1',
  sheetId: 's1',
  sheetTitle: 'Skerry Board 2027',
  isBehind: false,
  nextDate: { what: 'audition', date: '2027-02-06', time: '09:30', zone: 'Atlantic/Reykjavik', daysLeft: 12 },
  state: 'climbing',
  chance: 0.62,
  expectedSlips: 0.5,
  tracked: [1, 1],
  sentence: '“the run” decides.',
  parts: [part()],
  ...change,
});
const view = (change: Partial<StudentPageView> = {}): StudentPageView => ({
  student: { id: 'ilse', name: 'Ilse Vantongeren', instrument: 'clarinet', version: 1 },
  schools: AS_THE_STUDIO,
  reportsText: '',
  fromStudent: { surprises: [], notes: [] },
  programs: [program()],
  ...change,
});

describe('StudentPage', () => {
  let page: Shown<StudentPage>;
  let now: StudentPageView;
  let did: unknown[];
  let fails: unknown;

  const open = async (first: StudentPageView): Promise<void> => {
    [now, did, fails] = [first, [], null];
    const call = <T>(what: unknown, value: () => T): Observable<T> => {
      did.push(what);
      return fails ? throwError(() => fails) : of(value());
    };
    const api = {
      plan: () => EMPTY,
      student: () => of(now),
      sheets: () =>
        of([
          { id: 's1', title: 'Skerry Board 2027', instrument: 'clarinet' },
          { id: 's2', title: 'Northwater 2027', instrument: 'clarinet' },
        ]),
      changeStudent: (_student: unknown, change: StudentChange) =>
        call(change, () => {
          now = { ...now, student: { ...now.student, ...change, version: 2 } };
        }),
      addProgram: (input: ProgramInput) => call(input, () => ({ id: input.id })),
      removeProgram: (id: string) => call(`remove ${id}`, () => (now = { ...now, programs: [] })),
      removeStudent: () => call('remove', () => undefined),
      eraseStudent: () => call('erase', () => undefined),
      studentLinks: () => of([]),
      exportStudent: () => call('export', () => new Blob(['{}'])),
    };
    page = await show(StudentPage, { studentId: 'ilse' }, [
      { provide: StudioApi, useValue: api },
      { provide: SessionStore, useValue: { vocabulary: signal('us'), zone: signal('UTC') } },
      { provide: ScoreAhead, useValue: { soon: () => undefined } },
    ]);
    await page.settled();
  };
  const choose = async (item: string): Promise<void> => {
    await page.press('More for this student');
    await page.until(item);
    await page.press(item);
  };

  it('says what each program asks next, how ready it is and what decides', async () => {
    await open(view());
    expect(page.text).toContain('Ilse Vantongeren');
    expect(page.text).toContain('12 days');
    expect(page.text).toContain('6 February 2027, 09:30 Atlantic/Reykjavik');
    expect(page.text).toContain('62');
    expect(page.text).toContain('“the run” decides.');
  });

  it('says number, page and book of a part beside what is asked of it', async () => {
    await open(view());
    expect(page.text).toContain('no. 17, p. 26, Shoreline Pieces');
  });

  it('leads to what a newer revision changes, and only where there is one', async () => {
    await open(view({ programs: [program(), program({ id: 'other', isBehind: true })] }));
    expect(page.host.querySelectorAll('.revised')).toHaveSize(1);
    expect(page.find('.revised a').getAttribute('href')).toMatch(/\/revisions$/u);
  });

  it('gives no number where nothing was played', async () => {
    await open(
      view({
        programs: [
          program({ parts: [part({ chance: null, expectedSlips: null, sentence: 'Nothing played yet.' })] }),
        ],
      }),
    );
    expect(page.text).not.toMatch(/\d+\s*%/u);
    expect(page.text).toContain('Nothing played yet.');
  });

  it('changes name and instrument, and keeps both where it is refused', async () => {
    await open(view());
    await choose('Change name, instrument, schools');
    await page.until('Instrument');
    const name = [...document.querySelectorAll<HTMLInputElement>('input')].find(
      ({ value }) => value === 'Ilse Vantongeren',
    );
    expect(name).toBeDefined();
    fails = refusal(409, 'Somebody changed this student meanwhile.');
    await page.type(`#${name?.id}`, 'Ilse V.');
    await page.press('Save');
    expect(page.text).toContain('Somebody changed this student meanwhile.');
    fails = null;
    await page.press('Save');
    expect(did).toEqual([
      { name: 'Ilse V.', instrument: 'clarinet', schools: AS_THE_STUDIO },
      { name: 'Ilse V.', instrument: 'clarinet', schools: AS_THE_STUDIO },
    ]);
    expect(page.find('h1').textContent).toContain('Ilse V.');
  });

  it('erases only after it said what goes, and leads to the season', async () => {
    await open(view());
    await choose('Erase all data for good …');
    expect(did).toEqual([]);
    await page.until('Erase for good');
    await page.press('Erase for good');
    expect(did).toEqual(['erase']);
    expect(page.address).toBe('/season');
  });

  it('says why a program could not be taken away', async () => {
    await open(view());
    fails = refusal(404, 'This program is not here.');
    await page.press('Take away');
    expect(page.text).toContain('This program is not here.');
  });
});
