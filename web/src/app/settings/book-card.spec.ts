import { defer, Subject, take, type Observable } from 'rxjs';
import type { Book, BookView } from '@vivid-cue/contract';
import { StudioApi } from '../data/studio-api';
import { refusal, show, type Shown } from '../testing/shown';
import { BookCard } from './book-card';

const book = (change: Partial<BookView> = {}): BookView => ({
  ...{ looks: [], rules: [], silenced: [], version: 1 },
  ...change,
});

describe('BookCard', () => {
  let page: Shown<BookCard>;
  let sent: (readonly [version: number, book: Book])[];
  let answers: Subject<BookView>;

  const choose = (label: string, value: string): void => {
    const field = page.find<HTMLSelectElement>(`select[aria-label="${label}"]`);
    field.value = value;
    field.dispatchEvent(new Event('change'));
  };

  beforeEach(async () => {
    [sent, answers] = [[], new Subject()];
    const answer = (): Observable<BookView> => defer(() => answers.pipe(take(1)));
    const api = {
      book: () => defer(() => Promise.resolve(book())),
      changeBook: (version: number, change: Book) => (sent.push([version, change]), answer()),
    };
    page = await show(BookCard, {}, [{ provide: StudioApi, useValue: api }]);
  });

  it('makes a second choice on what the first one leaves, though that is not answered yet', async () => {
    choose('Ink of trap', 'moss');
    choose('Shape of trap', 'ring');
    await page.settled();
    expect(sent.length).toBe(1);
    answers.next(book({ version: 2, looks: [{ kind: 'trap', ink: 'moss', shape: 'lozenge' }] }));
    await page.settled();
    expect(sent[1]).toEqual([
      2,
      { looks: [{ kind: 'trap', ink: 'moss', shape: 'ring' }], rules: [], silenced: [] },
    ]);
  });

  it('lays a choice on top of what another window chose meanwhile', async () => {
    choose('Ink of trap', 'moss');
    await page.settled();
    const theirs = { kind: 'breath', ink: 'plum', shape: 'box' } as const;
    const current = book({ version: 8, looks: [theirs] });
    answers.error(refusal(409, 'Changed in another window.', { code: 'version-stale', current }));
    answers = new Subject();
    await page.settled();
    expect(sent[1]).toEqual([
      8,
      { looks: [theirs, { kind: 'trap', ink: 'moss', shape: 'lozenge' }], rules: [], silenced: [] },
    ]);
    answers.next(book({ ...sent[1]?.[1], version: 9 }));
    await page.until('Drawn so now.');
  });

  it('says why a choice was refused, and takes the next', async () => {
    choose('Ink of trap', 'moss');
    await page.settled();
    answers.error(refusal(503, 'The studio is closed for a moment.'));
    answers = new Subject();
    await page.until('The studio is closed for a moment.');
    choose('Ink of breath', 'teal');
    await page.settled();
    expect(sent.map(([version]) => version)).toEqual([1, 1]);
  });
});
