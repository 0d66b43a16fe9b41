import { TestBed } from '@angular/core/testing';
import { of, Subject } from 'rxjs';
import type { PageReading } from '@vivid-cue/core/page';
import {
  lineOfFields,
  readToldLine,
  toldFields,
  withBar,
  withCount,
  withFirst,
  type PaperPage,
} from '@vivid-cue/core/paper';
import type { ScoreRoomView } from '@vivid-cue/contract';
import { PageReaderClient, type PageNews } from '../../data/page-reader';
import { ScoreApi } from '../../data/score-api';
import { BoardStore } from './board-store';
import { questionsOf } from './questions';

const system = (top: number, doubtful = false): PageReading['systems'][number] => ({
  ...{ top, bottom: top + 0.04, left: 0.1, right: 0.9, staves: 1, opensRepeat: false },
  outline: { top: [top, top], bottom: [top + 0.04, top + 0.04] },
  barlines: [0.3, 0.6, 0.9].map((x) => ({ x, kind: 'single', isDoubtful: doubtful && x === 0.6 })),
  measures: [0.1, 0.3, 0.6].map((left, n) => ({
    ...{ left, right: [0.3, 0.6, 0.9][n] ?? 0.9, count: 1, isLongRest: false },
  })),
});
const READING: PageReading = {
  ...{ width: 1000, height: 1300, angleDegrees: 0, isUpsideDown: false },
  systems: [system(0.2), system(0.4, true)],
};
const ROOM = { programPartId: 'part', asked: [{ from: 1, to: 8 }], target: null } as unknown as ScoreRoomView;

describe('the board of pages', () => {
  const news = new Subject<PageNews>();
  const sent: string[] = [];
  let store: BoardStore;

  beforeEach(() => {
    sent.splice(0);
    TestBed.configureTestingModule({
      providers: [
        BoardStore,
        { provide: PageReaderClient, useValue: { read: () => news } },
        {
          provide: ScoreApi,
          useValue: {
            keepPage: (_part: string, id: string) => of(sent.push(id)),
            pageUrl: (id: string) => `/pages/${id}`,
          },
        },
      ],
    });
    store = TestBed.inject(BoardStore);
    store.begin(ROOM, null);
    store.add([new File(['x'], 'page.jpg', { type: 'image/jpeg' })]);
  });

  const read = (): void => {
    news.next({ kind: 'page', at: 0, of: 1, picture: new Blob(['x']), isWhole: true });
    news.next({ kind: 'read', at: 0, reading: READING, ms: 1 });
  };

  it('shows a picture before it is read, sends it once, and has its boxes when it is', () => {
    expect(store.sheets().map(({ name, isRead }) => [name, isRead])).toEqual([['page.jpg', false]]);
    expect(store.boxes()).toEqual([]);
    read();
    expect(sent).toEqual(store.sheets().map(({ id }) => id));
    expect(store.boxes().map(({ number }) => number)).toEqual([1, 2, 3, 4, 5, 6]);
    expect(store.draft().fields.last).toBe('6');
    expect(store.isSending()).toBeFalse();
  });

  it('takes back what was corrected, box and told together, and does it again', () => {
    read();
    store.tell({ ...store.draft().fields, meter: '4/4', letters: 'C5' });
    store.chosen.set({ page: 0, line: 0, box: 0 });
    store.change((pages) => withBar(pages, { page: 0, line: 0 }, 0.2));
    expect(lineOfFields(store.draft().fields)).toBe('1–7 4/4; C6');
    store.undo();
    expect(lineOfFields(store.draft().fields)).toBe('1–6 4/4; C5');
    expect(store.chosenBox()?.number).toBe(1);
    store.redo();
    expect(store.boxes().length).toBe(7);
    store.step(1);
    expect(store.chosenBox()?.number).toBe(2);
  });

  it('says what could not be taken, and takes the page away that it was', () => {
    news.next({ kind: 'failure', message: 'This PDF is broken.' });
    expect(store.refused()).toEqual(['page.jpg: This PDF is broken.']);
    expect(store.sheets()).toEqual([]);
  });

  it('asks for the meter first, then what the numbers say, then for doubtful bar lines and the end', () => {
    read();
    const kinds = (pages: readonly PaperPage[], line = ''): string[] => {
      const { music } = readToldLine(line);
      const fields = music ? toldFields(music) : { ...store.draft().fields, meter: '' };
      return questionsOf({ fields, pages }, { askedLast: 8, vocabulary: 'us' }).map(({ kind }) => kind);
    };
    const { pages } = store.draft();
    expect(kinds(pages)).toEqual(['meter', 'bar', 'end']);
    expect(kinds(pages, '1–6 4/4')).toEqual(['bar', 'end']);
    expect(kinds(withFirst(pages, { page: 0, line: 1 }, 3), '1–6 4/4')).toEqual(['clash', 'bar', 'end']);
    expect(kinds(withFirst(pages, { page: 0, line: 1 }, 6), '1–8 4/4')).toEqual(['gap', 'bar']);
    expect(kinds(withCount(pages, { page: 0, line: 0, box: 1 }, 3), '1–8 4/4')).toEqual(['bar']);
    const [question] = questionsOf(
      { fields: toldFields(readToldLine('1–8 4/4').music as never), pages },
      { askedLast: null, vocabulary: 'uk' },
    );
    expect([question?.ask, question?.why]).toEqual([
      'Is there a bar line at the end of 5?',
      'It is pale or touched by something. With it the line has 3 bars, the others 3.',
    ]);
  });
});
