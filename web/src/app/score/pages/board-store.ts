import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import { Subscription } from 'rxjs';
import { v7 as newId } from 'uuid';
import {
  barAt,
  boxesOfDraft,
  layoutOf,
  toldAfter,
  type BoxPlace,
  type PaperBox,
  type PaperDraft,
  type PaperMusic,
  type PaperPage,
  type ToldFields,
} from '@vivid-cue/core/paper';
import { PAGE_LIMITS } from '@vivid-cue/core/page';
import type { ScoreRoomView } from '@vivid-cue/contract';
import { PageReaderClient, type PageNews, type PageTurn } from '../../data/page-reader';
import { troubleOf } from '../../data/problem';
import { ScoreApi } from '../../data/score-api';
import { draftOf } from '../music/told-draft';

/** A page on the board. Shape: `trouble` is a sentence where it could not be sent; null while it is */
export interface Sheet {
  readonly id: string;
  readonly name: string;
  readonly url: string;
  readonly picture: Blob | null;
  /** The file that it can be read from again, turned. */
  readonly source: { readonly file: Blob; readonly turn: PageTurn } | null;
  readonly isRead: boolean;
  /** Whether it seems to stand on its head. */
  readonly isUpsideDown: boolean;
  readonly isSent: boolean;
  readonly trouble: string | null;
}

/** So many steps can be taken back. */
const MOST_UNDO = 200;

/** The pages on the board, what was found on them, and every correction. */
@Injectable()
export class BoardStore {
  private readonly api = inject(ScoreApi);
  private readonly reader = inject(PageReaderClient);
  private readonly reads = signal<readonly Subscription[]>([]);
  private programPartId = '';

  readonly sheets = signal<readonly Sheet[]>([]);
  readonly draft = signal<PaperDraft>({
    fields: draftOf({ asked: [], target: null }, null).fields,
    pages: [],
  });
  readonly chosen = signal<BoxPlace | null>(null);
  /** Files that could not be taken, in a sentence each. */
  readonly refused = signal<readonly string[]>([]);
  /** How many files are being read. */
  readonly reading = computed(() => this.reads().length);
  private readonly past = signal<readonly PaperDraft[]>([]);
  private readonly future = signal<readonly PaperDraft[]>([]);

  readonly canUndo = computed(() => this.past().length > 0);
  readonly canRedo = computed(() => this.future().length > 0);
  readonly isChanged = computed(
    () => this.past().length > 0 || this.sheets().some(({ picture }) => picture !== null),
  );
  readonly boxes = computed(() => boxesOfDraft(this.draft()));
  readonly chosenBox = computed((): PaperBox | null => {
    const at = this.chosen();
    return (at && this.boxes().find((box) => isSamePlace(box, at))) ?? null;
  });
  readonly isSending = computed(() =>
    this.sheets().some(({ isSent, trouble }) => !isSent && trouble === null),
  );

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      for (const one of this.reads()) one.unsubscribe();
      for (const { url, picture } of this.sheets()) if (picture) URL.revokeObjectURL(url);
    });
  }

  /** Begins with what is known of a part: its pages as they were kept, else what the sheet says. */
  begin(room: ScoreRoomView, paper: PaperMusic | null): void {
    this.programPartId = room.programPartId;
    const pages = paper?.pages ?? [];
    this.draft.set({ fields: draftOf(room, paper).fields, pages });
    this.sheets.set(
      pages.map(({ picture }, n): Sheet => ({
        ...{ id: picture, name: `Page ${n + 1}`, url: this.api.pageUrl(picture, 'lines') },
        ...{ picture: null, source: null, isRead: true, isUpsideDown: false, isSent: true, trouble: null },
      })),
    );
  }

  /** Takes files: their pages come behind those that are there. */
  add(files: readonly File[]): void {
    for (const file of files) this.read(file, { name: file.name, turn: 0 });
  }

  /** Reads a page again, turned by so many quarters more. */
  turn({ id, source, name }: Sheet, quarters = 1): void {
    if (!source) return;
    const turn = ((source.turn + quarters) % 4) as PageTurn;
    this.remove(id);
    this.read(source.file, { name, turn });
  }

  /** Stops whatever is being read. */
  stop(): void {
    for (const one of this.reads()) one.unsubscribe();
    const unread = this.sheets().filter(({ isRead }) => !isRead);
    for (const { id } of unread) this.remove(id);
  }

  /** Takes a page away. */
  remove(id: string): void {
    const sheet = this.sheets().find((one) => one.id === id);
    if (sheet?.picture) URL.revokeObjectURL(sheet.url);
    this.sheets.update((all) => all.filter((one) => one.id !== id));
    this.change((pages) => pages.filter(({ picture }) => picture !== id));
  }

  /** Moves a page one place to the front or to the back. */
  move(id: string, step: 1 | -1): void {
    const order = this.sheets().map((one) => one.id);
    const at = order.indexOf(id);
    const other = order[at + step];
    if (other === undefined) return;
    [order[at], order[at + step]] = [other, id];
    this.sheets.update((all) => inOrder(all, ({ id: own }) => own, order));
    this.change((pages) => inOrder(pages, ({ picture }) => picture, order));
  }

  /** Corrects the pages in one action. Shape: null where nothing is to change; `fields` change along with it */
  change(
    edit: (pages: readonly PaperPage[]) => readonly PaperPage[] | null,
    fields: ToldFields = this.draft().fields,
  ): boolean {
    const before = this.draft();
    const pages = edit(before.pages);
    if (!pages || (pages === before.pages && fields === before.fields)) return false;
    const after = { fields, pages };
    this.keepPast(before);
    this.draft.set({ pages, fields: toldAfter(before, after) });
    const at = this.chosen();
    if (at && !barAt(pages, at)) this.chosen.set(null);
    return true;
  }

  /** Changes what is told, and nothing of the boxes but their numbers. */
  tell(fields: ToldFields): void {
    const { first, pickup } = this.draft().fields;
    if (fields.first !== first || (fields.pickup.trim() === '') !== (pickup.trim() === ''))
      this.change((pages) => [...pages], fields);
    else {
      this.keepPast(this.draft());
      this.draft.update(({ pages }) => ({ pages, fields }));
    }
  }

  undo(): void {
    const before = this.past().at(-1);
    if (!before) return;
    this.future.update((all) => [...all, this.draft()]);
    this.past.update((all) => all.slice(0, -1));
    this.restore(before);
  }

  redo(): void {
    const after = this.future().at(-1);
    if (!after) return;
    this.past.update((all) => [...all, this.draft()]);
    this.future.update((all) => all.slice(0, -1));
    this.restore(after);
  }

  /** Goes to the next or the previous box. */
  step(by: number): void {
    const boxes = this.boxes();
    const at = this.chosen();
    const here = at ? boxes.findIndex((box) => isSamePlace(box, at)) : -1;
    const next =
      boxes[here < 0 ? (by > 0 ? 0 : boxes.length - 1) : Math.min(boxes.length - 1, Math.max(0, here + by))];
    if (next) this.chosen.set({ page: next.page, line: next.line, box: next.box });
  }

  /** Sends pages again that could not be sent. */
  sendAgain(): void {
    for (const sheet of this.sheets()) if (!sheet.isSent && sheet.trouble !== null) this.send(sheet.id);
  }

  private keepPast(before: PaperDraft): void {
    this.past.update((all) => [...all.slice(1 - MOST_UNDO), before]);
    this.future.set([]);
  }

  /** A draft of before, with the pages that are there now. */
  private restore({ fields, pages }: PaperDraft): void {
    const there = new Map(pages.map((page) => [page.picture, page]));
    const now = this.draft().pages.map((page) => there.get(page.picture) ?? page);
    this.draft.set({ fields, pages: now });
    const at = this.chosen();
    if (at && !barAt(now, at)) this.chosen.set(null);
  }

  private read(file: Blob, { name, turn }: { readonly name: string; readonly turn: PageTurn }): void {
    const room = PAGE_LIMITS.pages - this.sheets().length;
    if (room < 1) {
      this.refuse(`${name}: a part has at most ${PAGE_LIMITS.pages} pages.`);
      return;
    }
    // A picture is shown before anything is known of it.
    const ids = file.type.startsWith('image/') && turn === 0 ? [newId()] : [];
    for (const id of ids) this.show(id, { picture: file, name, source: { file, turn } });
    const own = new Subscription(() => this.reads.update((all) => all.filter((one) => one !== own)));
    this.reads.update((all) => [...all, own]);
    own.add(
      this.reader.read({ file, name, turn, room }).subscribe({
        next: (news) => this.hear(news, ids, { file, name, turn }),
        complete: () => own.unsubscribe(),
      }),
    );
  }

  private hear(
    news: PageNews,
    ids: string[],
    from: { readonly file: Blob; readonly name: string; readonly turn: PageTurn },
  ): void {
    if (news.kind === 'failure') {
      this.refuse(`${from.name}: ${news.message}`);
      for (const id of ids) if (this.sheets().some((one) => one.id === id && !one.isRead)) this.remove(id);
    } else if (news.kind === 'page') {
      const name = news.of > 1 ? `${from.name}, page ${news.at + 1}` : from.name;
      const source =
        news.of === 1 ? { file: from.file, turn: from.turn } : { file: news.picture, turn: 0 as const };
      const id = (ids[news.at] ??= newId());
      this.show(id, { picture: news.picture, name, source });
      if (news.isWhole) this.send(id);
    } else if (news.kind === 'read') {
      const id = ids[news.at] ?? '';
      const page = layoutOf(news.reading, id);
      this.sheets.update((all) =>
        all.map((one) =>
          one.id === id ? { ...one, isRead: true, isUpsideDown: news.reading.isUpsideDown } : one,
        ),
      );
      const before = this.draft();
      const order = this.sheets().map((one) => one.id);
      const pages = inOrder([...before.pages, page], ({ picture }) => picture, order);
      // A page that comes is no correction: there is nothing of it to take back.
      this.draft.set({ pages, fields: toldAfter(before, { fields: before.fields, pages }) });
    }
  }

  /** Shows a picture, in the place of the one before. */
  private show(id: string, shown: Pick<Sheet, 'picture' | 'name' | 'source'>): void {
    const known = this.sheets().find((one) => one.id === id);
    if (!shown.picture || known?.picture === shown.picture) return;
    if (known) URL.revokeObjectURL(known.url);
    const state = { isRead: false, isUpsideDown: false, isSent: false, trouble: null };
    const sheet: Sheet = { ...(known ?? state), id, ...shown, url: URL.createObjectURL(shown.picture) };
    this.sheets.update((all) => (known ? all.map((one) => (one.id === id ? sheet : one)) : [...all, sheet]));
  }

  private refuse(sentence: string): void {
    this.refused.update((all) => [...all, sentence]);
  }

  private send(id: string): void {
    const picture = this.sheets().find((one) => one.id === id)?.picture;
    if (!picture) return;
    const set = (change: Partial<Sheet>): void =>
      this.sheets.update((all) => all.map((one) => (one.id === id ? { ...one, ...change } : one)));
    set({ trouble: null });
    this.api.keepPage(this.programPartId, id, picture).subscribe({
      next: () => set({ isSent: true }),
      error: (error: unknown) => set({ trouble: troubleOf(error).message }),
    });
  }
}

/** Whether two places are the same box. */
export function isSamePlace(a: BoxPlace, b: BoxPlace): boolean {
  return a.page === b.page && a.line === b.line && a.box === b.box;
}

function inOrder<One>(all: readonly One[], idOf: (one: One) => string, order: readonly string[]): One[] {
  return [...all].sort((a, b) => order.indexOf(idOf(a)) - order.indexOf(idOf(b)));
}
