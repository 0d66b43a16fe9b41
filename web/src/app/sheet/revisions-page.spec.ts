import { of, Subject, take, throwError } from 'rxjs';
import { blankPart, readErrata, type StructuredSheet } from '@vivid-cue/core/sheet';
import type { RevisionInput, RevisionsView, SheetView } from '@vivid-cue/contract';
import { SheetReaderClient } from '../data/sheet-reader';
import { StudioApi } from '../data/studio-api';
import { refusal, show, type Shown } from '../testing/shown';
import { RevisionsPage } from './revisions-page';

const id = (n: number): string => `01900000-0000-7000-8000-${String(n).padStart(12, '0')}`;
const tempo = (bpm: number) =>
  ({ beatUnit: 'quarter', bpmMin: bpm, bpmMax: bpm, bound: 'exact', words: null }) as const;
const parts = [
  { ...blankPart('Etude 1', 'etude', id(1)), tempo: tempo(96) },
  { ...blankPart('Etude 2', 'etude', id(2)), tempo: tempo(60) },
];
const sheet = (version: number): SheetView =>
  ({
    id: id(9),
    version,
    body: 'Skerry Board',
    year: '2027',
    division: '',
    instrument: 'clarinet',
    deadlines: [
      {
        id: id(30),
        kind: 'audition',
        date: '2027-02-06',
        endDate: null,
        time: null,
        zone: 'UTC',
        text: null,
      },
    ],
    parts,
    choices: [],
    notes: [],
    questions: [],
    publishedText: 'Etude 1 …',
  }) as unknown as SheetView;
const behind = (n: number, name: string): RevisionsView['behind'][number] => ({
  programId: id(40 + n),
  studentId: id(50 + n),
  studentName: name,
  revisionNumber: 1,
  breaks: n === 0 ? [{ part: 'Etude 1', sentences: ['The target ♩ = 96 is below ♩ = 100.'] }] : [],
});
const view = (change: Partial<RevisionsView> = {}): RevisionsView => ({
  sheetId: id(9),
  title: 'Skerry Board 2027',
  revisions: [{ id: id(20), number: 1, issuedOn: null, note: '', programs: 2 }],
  difference: null,
  behind: [],
  ...change,
});
const NOTICE =
  'Etude 1: the tempo should read ♩ = 100, not ♩ = 96.\nThe audition is on 13 February 2027, not 6 February 2027.';

describe('RevisionsPage', () => {
  let page: Shown<RevisionsPage>;
  let sent: { readonly version: number; readonly input: RevisionInput }[];
  let moved: unknown[];
  let answer: Subject<SheetView>;
  let fails: unknown;
  let loads: number;

  const open = async (first: RevisionsView): Promise<void> => {
    [sent, moved, answer, fails, loads] = [[], [], new Subject(), null, 0];
    const api = {
      revisions: () => of(first),
      sheet: () => {
        loads += 1;
        return of(sheet(2 + loads));
      },
      addRevision: (_id: string, version: number, input: RevisionInput) => {
        sent.push({ version, input });
        return fails ? throwError(() => fails) : answer.pipe(take(1));
      },
      movePrograms: (_id: string, programIds: string[]) => {
        moved.push(programIds);
        return of(view());
      },
    };
    const reader = {
      warmUp: () => undefined,
      errata: (text: string, base: StructuredSheet) => Promise.resolve(readErrata(text, base)),
    };
    page = await show(RevisionsPage, { sheetId: id(9) }, [
      { provide: StudioApi, useValue: api },
      { provide: SheetReaderClient, useValue: reader },
    ]);
  };
  /** The rows of a notice: ticked or not, what it is, what stands now, what will stand. */
  const rows = (): unknown[][] =>
    [...page.host.querySelectorAll('vc-errata-rows li')].map((row) => [
      row.querySelector<HTMLInputElement>('input[type=checkbox]')?.checked,
      row.querySelector('label')?.textContent?.replace(/\s+/gu, ' ').trim(),
      row.querySelector('.old')?.textContent?.trim(),
      row.querySelector<HTMLInputElement>('.stands input')?.value,
    ]);
  const read = async (notice = NOTICE): Promise<void> => {
    await page.type('textarea', notice);
    await page.press('Read the notice');
  };

  it('shows what a notice changes before anything is stored', async () => {
    await open(view());
    await read();
    expect(rows()).toEqual([
      [true, 'Etude 1 tempo', '♩=96', 'quarter = 100'],
      [true, 'audition date date', '2027-02-06', '2027-02-13'],
    ]);
    expect(page.text).toContain('Etude 1: the tempo should read ♩ = 100, not ♩ = 96.');
    expect(sent).toEqual([]);
    expect(page.fixture.componentInstance.hasEdits()).toBeTrue();
  });

  it('makes the revision of the whole sheet as it then stands; parts stay the parts they were', async () => {
    await open(view());
    await page.type('#source', 'e-mail of the chair');
    await read();
    await page.press('Make revision 2');
    const { version, input } = sent[0] ?? {};
    expect(version).toBe(3);
    expect(input?.note).toBe('e-mail of the chair');
    expect(input?.parts.map((part) => [part.id, part.tempo.bpmMin])).toEqual([
      [id(1), 100],
      [id(2), 60],
    ]);
    expect(input?.deadlines.map(({ date }) => date)).toEqual(['2027-02-13']);
    // A date belongs to its revision: it is a row of its own.
    expect(input?.deadlines[0]?.id).not.toBe(id(30));
    answer.next({ ...sheet(4), revision: { number: 2 } } as SheetView);
    await page.settled();
    expect(page.fixture.componentInstance.hasEdits()).toBeFalse();
    expect(page.find<HTMLTextAreaElement>('textarea').value).toBe('');
  });

  it('loses nothing when somebody else was faster: the notice stays, the sheet is read anew, the revision is the same', async () => {
    await open(view());
    await read();
    fails = refusal(409, 'Somebody else changed this sheet.', { code: 'version-stale' });
    await page.press('Make revision 2');
    expect(page.text).toContain('Somebody else changed this sheet.');
    expect(page.find<HTMLTextAreaElement>('textarea').value).toBe(NOTICE);
    fails = null;
    await page.press('Make revision 2');
    expect(sent.map(({ version }) => version)).toEqual([3, 4]);
    // Sent twice it is one revision.
    expect(sent[0]?.input.revisionId).toBe(sent[1]?.input.revisionId ?? '');
  });

  it('takes only rows that are ticked, as they were put right; a row that cannot be read holds the revision back', async () => {
    await open(view());
    await read();
    page.find<HTMLInputElement>('#tick-1').click();
    await page.settled();
    await page.type('#stands-0', '♩ = ');
    expect(page.named('Make revision 2').hasAttribute('disabled')).toBeTrue();
    await page.type('#stands-0', 'quarter = 104');
    await page.press('Make revision 2');
    const { input } = sent[0] ?? {};
    expect(input?.parts.map((part) => part.tempo.bpmMin)).toEqual([104, 60]);
    expect(input?.deadlines.map(({ date }) => date)).toEqual(['2027-02-06']);
    // The note of a sentence that was not taken is none.
    expect(input?.notes?.map(({ text }) => text)).toEqual([
      'Etude 1: the tempo should read ♩ = 100, not ♩ = 96.',
    ]);
  });

  it('leaves doubtful rows unticked, with the reason', async () => {
    await open(view());
    await read('Etude 1: the tempo should read ♩ = 100, not ♩ = 92.\nEtude 7: measures should be 1–8.');
    expect(rows().map(([isTicked]) => isTicked)).toEqual([false, false]);
    expect(page.text).toContain('The notice says that ♩=92 stood; the sheet has ♩=96.');
    expect(page.text).toContain('The sheet has no part called Etude 7.');
    expect(page.named('Make revision 2').hasAttribute('disabled')).toBeTrue();
  });

  it('says of a notice that came twice that all of it stands, and of one for another sheet whose it is', async () => {
    await open(view());
    await read('Etude 1: the tempo should read ♩ = 96.');
    expect(page.text).toContain('Everything that this notice says stands in the sheet already.');
    await read('ERRATA to the Northfall Guild 2027 Violin List\n\nEtude 1: the tempo should read ♩ = 80.');
    expect(rows()).toEqual([]);
    expect(page.text).toContain('not for this sheet; nothing was changed');
  });

  it('keeps a sentence that nobody could read in sight, until it is laid to a part by hand', async () => {
    await open(view());
    await read('Etude 2: measures 1–8.\nKestrels, they say, are quicker.');
    expect(page.text).toContain('Not recognised: Kestrels, they say, are quicker.');
    await page.press('Keep it as a note');
    expect(page.text).not.toContain('Not recognised');
    await page.press('Make revision 2');
    expect(sent[0]?.input.notes?.map(({ text }) => text)).toContain('Kestrels, they say, are quicker.');
  });

  it('names who stands on an older revision with what breaks, and moves one or all', async () => {
    await open(view({ behind: [behind(0, 'Ilse'), behind(1, 'Tam')] }));
    expect(page.text).toContain('2 students stand on an older revision');
    expect(page.text).toContain('The target ♩ = 96 is below ♩ = 100.');
    expect(page.text).toContain('Nothing in this preparation breaks.');
    await page.press('Move Tam over');
    expect(moved).toEqual([[id(41)]]);
    expect(page.text).not.toContain('older revision');
  });

  it('moves all at once', async () => {
    await open(view({ behind: [behind(0, 'Ilse'), behind(1, 'Tam')] }));
    await page.press('Move all over');
    expect(moved).toEqual([[id(40), id(41)]]);
  });
});
