import { signal } from '@angular/core';
import { of, throwError, type Observable } from 'rxjs';
import type { ForecastsView } from '@vivid-cue/contract/forecasts';
import type { ProgramView, SeasonRow, SeasonView, StudentInput, StudentList } from '@vivid-cue/contract';
import { SessionStore } from '../data/session-store';
import { StudioApi } from '../data/studio-api';
import { refusal, show, type Shown } from '../testing/shown';
import { SeasonPage } from './season-page';

const program = (change: Partial<ProgramView> = {}): ProgramView => ({
  id: 'p',
  sheetId: 's',
  sheetTitle: 'Skerry Board 2027',
  isBehind: false,
  nextDate: { what: 'audition', date: '2027-02-06', daysLeft: 12 } as unknown as ProgramView['nextDate'],
  state: 'climbing',
  chance: 0.62,
  expectedSlips: 0.5,
  tracked: [1, 2],
  sentence: '“the run” decides.',
  parts: [],
  ...change,
});
const row = (name: string, change: Partial<SeasonRow> = {}): SeasonRow => ({
  student: { id: name.toLowerCase(), name, instrument: 'clarinet', version: 1 } as SeasonRow['student'],
  program: program(),
  morePrograms: 0,
  need: null,
  ...change,
});

describe('SeasonPage', () => {
  let page: Shown<SeasonPage>;
  let season: SeasonView;
  let forecasts: ForecastsView;
  let fails: unknown;
  let added: (StudentInput | StudentList)[];

  const open = async (): Promise<void> => {
    added = [];
    const answer = <T>(value: T): Observable<T> => (fails ? throwError(() => fails) : of(value));
    const api = {
      season: () => answer(season),
      forecasts: () => of(forecasts),
      sheets: () => of([]),
      timeline: () => of({ entries: [], students: [] }),
      addStudent: (input: StudentInput) => {
        added.push(input);
        return answer({ ...input, version: 1 });
      },
      addStudents: (list: StudentList) => {
        added.push(list);
        return answer(list.students);
      },
      readRecord: (studentId: string, file: File) =>
        answer({ studentId, passages: 1, reps: 3, differing: [], name: file.name }),
    };
    page = await show(SeasonPage, {}, [
      { provide: StudioApi, useValue: api },
      { provide: SessionStore, useValue: { vocabulary: signal('us'), zone: signal('UTC') } },
    ]);
  };

  beforeEach(() => {
    fails = null;
    forecasts = { forecasts: [], isWorking: false };
    season = { rows: [], bodies: 0, sheets: 0 };
  });

  it('says in words how many there are and who needs the instructor', async () => {
    season = {
      rows: [row('Ilse', { need: 'Etude 2 needs its score' }), row('Tam'), row('Oru')],
      bodies: 1,
      sheets: 1,
    };
    await open();
    expect(page.text).toContain('three students, one audition body.');
    expect(page.text).toContain('One needs you.');
    const rows = [...page.host.querySelectorAll('tbody tr')].map((line) => line.textContent ?? '');
    expect(rows[0]).toContain('Etude 2 needs its score');
    expect(rows[1]).toContain('62');
    expect(rows[1]).toContain('1 of 2 parts tracked');
  });

  it('shows how it is likely to stand on the day, groups at will and finds by name or instrument', async () => {
    const one = { date: '2027-02-06', daysLeft: 12, chance: 0.81, low: 0.6, high: 0.9, ready: 0.7 };
    forecasts = { forecasts: [{ programId: 'p', ...one }], isWorking: false };
    season = {
      rows: [
        row('Ilse', { need: 'wrote to you' }),
        row('Zoë', { program: program({ id: 'q' }) }),
        row('Oru'),
      ],
      bodies: 1,
      sheets: 1,
    };
    await open();
    const ahead = [...page.host.querySelectorAll<HTMLElement>('.ahead')];
    expect(ahead.map(({ textContent, title }) => [textContent?.includes('81'), title])).toEqual([
      [true, 'On the day, if the plan is practised: 60 to 90 %'],
      [true, 'On the day, if the plan is practised: 60 to 90 %'],
    ]);
    const select = page.find('.tools select') as unknown as HTMLSelectElement;
    select.value = 'need';
    select.dispatchEvent(new Event('change'));
    await page.settled();
    const groups = [...page.host.querySelectorAll('.group')].map((group) => group.textContent?.trim());
    expect(groups.map((text) => text?.replace(/\s+/gu, ' '))).toEqual(['Need you 1', 'The others 2']);
    const find = page.find('.tools input') as unknown as HTMLInputElement;
    find.value = 'zoe';
    find.dispatchEvent(new Event('input'));
    await page.settled();
    expect([...page.host.querySelectorAll('.student')].map(({ textContent }) => textContent)).toEqual([
      'Zoë',
    ]);
    localStorage.removeItem('vivid-cue-season-groups');
  });

  it('gives no number where nothing was played, and says what is missing where there is no sheet', async () => {
    season = {
      rows: [
        row('Ilse', { program: program({ chance: null, expectedSlips: null }) }),
        row('Tam', { program: null }),
      ],
      bodies: 1,
      sheets: 1,
    };
    await open();
    expect(page.find('.chance').getAttribute('aria-label')).toBe('no number yet');
    expect(page.text).toContain('Give Tam a sheet to begin.');
    expect(page.text).toContain('Nobody needs you today.');
  });

  it('says why nothing is there and tries again', async () => {
    fails = refusal(500, 'The server could not do that.');
    await open();
    expect(page.text).toContain('The server could not do that.');
    fails = null;
    await page.press('Try again');
    expect(page.text).toContain('No students yet');
    expect(page.text).not.toContain('could not');
  });

  it('adds one student by the keyboard, with what is missing said beside the field', async () => {
    await open();
    await page.key('n');
    await page.until('As you call them in the studio');
    await page.press('Add the student');
    expect(page.text).toContain('Write the student’s name.');
    expect(added).toEqual([]);
    await page.type('#student-name', 'Ilse Vantongeren');
    await page.type('#student-instrument', 'clarinet');
    fails = refusal(409, 'A studio has at most 500 students.');
    await page.press('Add the student');
    expect(page.text).toContain('A studio has at most 500 students.');
    fails = null;
    await page.press('Add the student');
    const ids = added.map((one) => ('id' in one ? one.id : ''));
    // Sent again it is the same student.
    expect([ids.length, new Set(ids).size]).toEqual([2, 1]);
    expect(page.address).toBe(`/students/${ids[0]}`);
  });

  it('does not take letters for keys while somebody writes', async () => {
    await open();
    await page.key('n');
    await page.until('As you call them in the studio');
    await page.key('s', page.find('#student-name'));
    expect(page.address).toBe('/');
    await page.key('s');
    expect(page.address).toBe('/sheets/new');
  });

  it('adds a class from a pasted list: an instrument for those who have none, one list sent twice is one', async () => {
    await open();
    await page.key('n');
    await page.until('As you call them in the studio');
    await page.press('Several at once');
    await page.type(
      '#student-lines',
      '1. Ilse Vantongeren, clarinet\n2. Tam Brae\n\n3. ilse vantongeren, oboe',
    );
    expect(page.text).toContain('No instrument yet: Tam Brae');
    await page.type('#instrument-for-all', 'bassoon');
    fails = refusal(503, 'Busy.');
    await page.press('Add 2 students');
    fails = null;
    await page.press('Add 2 students');
    const lists = added.map((one) => ('students' in one ? one.students : []));
    expect(lists[0]?.map(({ name, instrument }) => [name, instrument])).toEqual([
      ['Ilse Vantongeren', 'clarinet'],
      ['Tam Brae', 'bassoon'],
    ]);
    expect(lists[1]).toEqual(lists[0]);
  });

  it('takes a student in from a saved record, again after it was refused', async () => {
    await open();
    await page.key('n');
    await page.until('As you call them in the studio');
    await page.press('From a saved record');
    const choose = async (): Promise<void> => {
      const files = new DataTransfer();
      files.items.add(new File(['{}'], 'student.json'));
      const input = page.find<HTMLInputElement>('#record-file');
      input.files = files.files;
      input.dispatchEvent(new Event('change'));
      await page.settled();
    };
    fails = refusal(422, 'This is not a record of a student.');
    await choose();
    expect(page.text).toContain('This is not a record of a student.');
    fails = null;
    await choose();
    expect(page.address).toMatch(/^\/students\/[0-9a-f-]{36}$/u);
  });
});
