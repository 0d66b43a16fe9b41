import { MessageService } from 'primeng/api';
import { of, throwError, type Observable } from 'rxjs';
import type { SheetLine } from '@vivid-cue/contract';
import { StudioApi } from '../data/studio-api';
import { refusal, show, type Shown } from '../testing/shown';
import { SheetList } from './sheet-list';

const line = (change: Partial<SheetLine> = {}): SheetLine => ({
  id: 's',
  title: 'Skerry Board 2027',
  instrument: 'clarinet',
  parts: 3,
  programs: 0,
  revision: 1,
  behind: 0,
  openQuestions: 0,
  next: { what: 'audition', daysLeft: 12 },
  ...change,
});

describe('SheetList', () => {
  let page: Shown<SheetList>;
  let sheets: SheetLine[];
  let did: string[];
  let fails: unknown;

  const open = async (lines: SheetLine[]): Promise<void> => {
    [sheets, did, fails] = [lines, [], null];
    const answer = <T>(value: () => T): Observable<T> => (fails ? throwError(() => fails) : of(value()));
    const api = {
      sheets: () => answer(() => sheets),
      season: () => of({ rows: [] }),
      sheetPrograms: () => of([]),
      removeSheet: (id: string) => {
        did.push(`remove ${id}`);
        return answer(() => {
          sheets = sheets.filter((sheet) => sheet.id !== id);
          return { programs: [{ studentName: 'Ilse' }] };
        });
      },
      restoreSheet: (id: string) => {
        did.push(`restore ${id}`);
        sheets = lines;
        return of(undefined);
      },
    };
    page = await show(SheetList, {}, [{ provide: StudioApi, useValue: api }]);
  };
  /** The notices that were said, each with what it offers. */
  const noticed = (): { summary?: string; detail?: string; data?: { undo: () => void } }[] => {
    const said: { summary?: string; data?: { undo: () => void } }[] = [];
    page.fixture.debugElement.injector.get(MessageService).messageObserver.subscribe((one) => {
      said.push(...(Array.isArray(one) ? one : [one]));
    });
    return said;
  };

  it('says of each sheet what wants attention: students on an older revision before open questions', async () => {
    await open([
      line({ id: 'a', behind: 2, openQuestions: 3 }),
      line({ id: 'b', openQuestions: 1, next: null }),
      line({ id: 'c', programs: 1 }),
    ]);
    const rows = [...page.host.querySelectorAll('li')].map(
      (row) => row.textContent?.replace(/\s+/gu, ' ') ?? '',
    );
    expect(rows[0]).toContain('2 on an older revision');
    expect(rows[0]).not.toContain('open question');
    expect(rows[1]).toContain('1 open question');
    expect(rows[1]).toContain('no date ahead');
    expect(rows[2]).toContain('1 student');
    expect(rows[2]).toContain('12 days · audition');
  });

  it('removes at once what nobody uses, and brings it back with Undo', async () => {
    await open([line()]);
    const said = noticed();
    await page.press('Remove Skerry Board 2027');
    expect(did).toEqual(['remove s']);
    expect(page.text).toContain('No sheets yet');
    expect(said.map(({ summary }) => summary)).toEqual(['Skerry Board 2027 removed']);
    said[0]?.data?.undo();
    await page.settled();
    expect(did).toEqual(['remove s', 'restore s']);
    expect(page.host.querySelectorAll('li').length).toBe(1);
  });

  it('asks first where students use it, and names them', async () => {
    await open([line({ programs: 1 })]);
    const said = noticed();
    await page.press('Remove Skerry Board 2027');
    await page.until('Their programs go along; passages and reps stay.');
    expect(did).toEqual([]);
    await page.press('Keep it');
    expect(did).toEqual([]);
    await page.press('Remove Skerry Board 2027');
    await page.until('Their programs go along');
    await page.press('Remove it');
    expect(did).toEqual(['remove s']);
    expect(said.at(-1)?.detail).toBe('With the programs of Ilse');
  });

  it('loads again after a failure: what could not be shown once can be later', async () => {
    await open([line()]);
    const said = noticed();
    await page.press('Remove Skerry Board 2027');
    fails = refusal(500, 'The server could not do that.');
    said[0]?.data?.undo();
    await page.settled();
    expect(page.text).toContain('The server could not do that.');
    fails = null;
    said[0]?.data?.undo();
    await page.settled();
    expect(page.text).not.toContain('could not do that');
    expect(page.host.querySelectorAll('li').length).toBe(1);
  });
});
