import { computed, DestroyRef, inject, Injectable, signal, type Signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { catchError, debounceTime, EMPTY, of, switchMap } from 'rxjs';
import type { AskedQuestion, StudentView } from '@vivid-cue/contract';
import { StudioApi } from '../data/studio-api';
import { sheetInstruments, shownAtFirst, shownParts, type SheetInstrument } from './instruments-shown';
import { namedParts, type NamedPart } from './part-groups';
import type { SheetForm } from './sheet-form';

const TYPING_PAUSE_MS = 300;

/** Which instruments of a sheet are looked at on the desk: those of the students first, others when they are opened. */
@Injectable()
export class DeskInstruments {
  private readonly api = inject(StudioApi);
  private readonly destroyRef = inject(DestroyRef);
  private readonly form = signal<SheetForm | null>(null, { equal: () => false });
  private readonly students = signal<readonly StudentView[]>([]);
  private readonly typed = signal(0);

  /** The instruments that the parts name. */
  readonly all = computed((): readonly SheetInstrument[] => {
    this.typed();
    const form = this.form();
    return form ? sheetInstruments(form, this.students()) : [];
  });
  /** Instruments that were opened or folded away by hand. */
  readonly turned = signal<readonly string[]>([]);
  /** The instruments whose parts are shown. Shape: null where there is nothing to choose */
  readonly shown = computed((): ReadonlySet<string> | null => {
    if (this.all().length < 2) return null;
    const first = shownAtFirst(this.all());
    const keys = this.all().map(({ key }) => key);
    return new Set(keys.filter((key) => first.has(key) !== this.turned().includes(key)));
  });

  /** The parts that are shown, by their names. */
  readonly named = computed((): readonly NamedPart[] => {
    const [form] = [this.form(), this.typed(), this.all()];
    if (!form) return [];
    const ids = new Set(shownParts(form, this.shown()));
    return namedParts(form).filter(({ id }) => ids.has(id));
  });

  /** Questions without those about parts that are folded away. */
  asked(questions: readonly AskedQuestion[]): readonly AskedQuestion[] {
    const [form, shown] = [this.form(), this.shown()];
    if (!form || shown === null) return questions;
    const open = new Set(shownParts(form, shown));
    const all = new Set(form.controls.parts.controls.map(({ controls }) => controls.id.value));
    return questions.filter(({ partId }) => partId === null || !all.has(partId) || open.has(partId));
  }

  follow(form: Signal<SheetForm | null>): void {
    const form$ = toObservable(form);
    form$.pipe(takeUntilDestroyed(this.destroyRef)).subscribe((own) => this.form.set(own));
    form$
      .pipe(
        switchMap((own) => own?.valueChanges ?? EMPTY),
        debounceTime(TYPING_PAUSE_MS),
        takeUntilDestroyed(this.destroyRef),
      )
      .subscribe(() => this.typed.update((count) => count + 1));
    this.api
      .season()
      .pipe(
        catchError(() => of({ rows: [] })),
        takeUntilDestroyed(this.destroyRef),
      )
      .subscribe(({ rows }) => this.students.set(rows.map(({ student }) => student)));
  }

  /** Opens an instrument, or folds it away. */
  turn(key: string): void {
    this.turned.update((turned) =>
      turned.includes(key) ? turned.filter((one) => one !== key) : [...turned, key],
    );
  }

  /** Opens an instrument that is folded away. */
  open(key: string): void {
    if (this.shown()?.has(key) === false) this.turn(key);
  }
}
