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
  const read = async (): Promise<void> => {
    await page.type('textarea', NOTICE);
    await page.press('Read the notice');
  };

  it('shows what a notice changes before anything is stored', async () => {
    await open(view());
    await read();
    const rows = [...page.host.querySelectorAll('table tbody tr')].map((row) =>
      [...row.children].map((cell) => cell.textContent?.trim()),
    );
    expect(rows[0]?.[0]).toBe('Etude 1');
    expect(rows[0]?.slice(2)).toEqual(['♩=96', '♩=100']);
    expect(rows[1]?.slice(2)).toEqual(['2027-02-06', '2027-02-13']);
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
