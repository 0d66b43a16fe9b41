import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { firstValueFrom, from } from 'rxjs';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { v7 as newId } from 'uuid';
import {
  CUE_INKS,
  CUE_KINDS,
  CUE_SHAPES,
  lookOf,
  type CueKind,
  type CueLook,
} from '@vivid-cue/core/cue-kinds';
import { RULE_BOOK } from '@vivid-cue/core/hands';
import type { Book, BookView, StudioRule } from '@vivid-cue/contract';
import { InOrder } from '../data/in-order';
import { onTop } from '../data/on-top';
import { troubleOf } from '../data/problem';
import { StudioApi } from '../data/studio-api';
import { CueMark } from '../ui/cue-mark';
import { ProblemNote } from '../ui/problem-note';
import { patternText, WAYS, wayOf, type PatternWay } from './rule-words';

/** A new rule as it is typed. */
interface RuleDraft {
  readonly instrument: string;
  readonly way: PatternWay;
  readonly notes: string;
  readonly isQuick: boolean;
  readonly isSlurred: boolean;
  readonly advice: string;
}

const NO_RULE: RuleDraft = {
  ...{ instrument: '', way: 'pairs', notes: '', isQuick: false, isSlurred: false, advice: '' },
};

/** How the studio writes: inks and shapes of its cues, rules of its own, and which of the shipped ones hold. */
@Component({
  selector: 'vc-book-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, CueMark, FormsModule, InputText, ProblemNote],
  templateUrl: './book-card.html',
  styleUrl: './book-card.css',
})
export class BookCard {
  private readonly api = inject(StudioApi);
  private readonly destroyRef = inject(DestroyRef);
  /** Two quick ticks follow each other; neither is refused for the other. */
  private readonly order = new InOrder();

  protected readonly book = signal<BookView | null>(null);
  protected readonly failure = signal<string | null>(null);
  protected readonly saved = signal('');
  protected readonly draft = signal(NO_RULE);
  protected readonly shown = signal('');
  protected readonly kinds = CUE_KINDS;
  protected readonly inks = CUE_INKS;
  protected readonly shapes = CUE_SHAPES;
  protected readonly ways = WAYS;
  protected readonly instruments = [...new Set(RULE_BOOK.map(({ instrument }) => instrument))].sort();
  /** The rules that are shipped for the instrument that is looked at. */
  protected readonly shipped = computed(() => {
    const silenced = new Set(this.book()?.silenced);
    return RULE_BOOK.filter(({ instrument }) => instrument === (this.shown() || this.instruments[0])).map(
      (rule) => ({ ...rule, what: patternText(rule.pattern), isOn: !silenced.has(rule.id) }),
    );
  });
  protected readonly own = computed(() =>
    (this.book()?.rules ?? []).map((rule) => ({ ...rule, what: patternText(rule.pattern) })),
  );

  constructor() {
    this.api
      .book()
      .pipe(takeUntilDestroyed())
      .subscribe({
        next: (book) => this.book.set(book),
        error: (error: unknown) => this.failure.set(troubleOf(error).message),
      });
  }

  protected look(kind: CueKind): CueLook {
    return lookOf(kind, this.book()?.looks ?? []);
  }

  protected setLook(kind: CueKind, change: Partial<CueLook>): void {
    this.keep(({ looks }) => {
      const look = { kind, ...lookOf(kind, looks), ...change };
      return { looks: [...looks.filter((one) => one.kind !== kind), look] };
    }, 'Drawn so now.');
  }

  protected setHeld(id: string, isOn: boolean): void {
    this.keep(
      ({ silenced }) => ({ silenced: isOn ? silenced.filter((one) => one !== id) : [...silenced, id] }),
      isOn ? 'The rule holds again.' : 'The rule is silent now.',
    );
  }

  protected edit(change: Partial<RuleDraft>): void {
    this.draft.update((draft) => ({ ...draft, ...change }));
  }

  protected addRule(): void {
    const { instrument, way, notes, isQuick, isSlurred, advice } = this.draft();
    const names = notes
      .split(/[,;]/u)
      .map((name) => name.trim().replaceAll(/\s+/gu, ' ').replaceAll('♭', 'b').replaceAll('♯', '#'));
    const rule: StudioRule = {
      ...{ id: newId(), instrument: instrument.trim(), kind: 'fingering', advice: advice.trim() },
      pattern: {
        ...wayOf(
          way,
          names.filter((name) => name !== ''),
        ),
        ...(isQuick && { isQuick }),
        ...(isSlurred && { isSlurred }),
      },
    };
    this.keep(
      ({ rules }) => ({ rules: [...rules, rule] }),
      'The rule is in your book.',
      () => this.draft.set(NO_RULE),
    );
  }

  protected dropRule(id: string): void {
    this.keep(({ rules }) => ({ rules: rules.filter((rule) => rule.id !== id) }), 'The rule is gone.');
  }

  private keep(
    changeOf: (book: Book) => Partial<Book>,
    done: string,
    after: () => void = () => undefined,
  ): void {
    const change = async (): Promise<void> => {
      const book = this.book();
      if (!book) return;
      const { version, looks, rules, silenced } = book;
      const own = { looks, rules, silenced, ...changeOf(book) };
      this.book.set(await firstValueFrom(this.api.changeBook(version, own)));
    };
    from(this.order.after(() => onTop(change, (current: BookView) => this.book.set(current))))
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: () => {
          this.failure.set(null);
          this.saved.set(done);
          after();
        },
        error: (error: unknown) => {
          this.saved.set('');
          this.failure.set(troubleOf(error).message);
        },
      });
  }
}
