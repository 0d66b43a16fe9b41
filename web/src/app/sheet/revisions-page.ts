import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  type OnInit,
  signal,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { MessageService } from 'primeng/api';
import { Button, ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Textarea } from 'primeng/textarea';
import { forkJoin } from 'rxjs';
import { v7 as newId } from 'uuid';
import { amendSheet, type ErrataReading, type SheetNote } from '@vivid-cue/core/sheet';
import {
  sheetStructure,
  storedPart,
  type ProgramBehind,
  type RevisionInput,
  type RevisionsView,
  type SheetView,
} from '@vivid-cue/contract';
import { troubleOf } from '../data/problem';
import { SheetReaderClient } from '../data/sheet-reader';
import { StudioApi } from '../data/studio-api';
import { ProblemNote } from '../ui/problem-note';
import type { Editing } from '../ui/unsaved-edits';
import { fieldText, partText, valueText } from './change-text';
import { ErrataRows } from './errata-rows';

/** The revisions of a sheet: what an erratum changes, and whose preparation it touches. */
@Component({
  selector: 'vc-revisions-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, ButtonDirective, ErrataRows, FormsModule, InputText, ProblemNote, RouterLink, Textarea],
  templateUrl: './revisions-page.html',
  styleUrl: './revisions-page.css',
})
export class RevisionsPage implements OnInit, Editing {
  private readonly api = inject(StudioApi);
  private readonly reader = inject(SheetReaderClient);
  private readonly messages = inject(MessageService);
  private readonly destroyRef = inject(DestroyRef);
  private revisionId = newId();

  /** The sheet. */
  readonly sheetId = input.required<string>();

  protected readonly view = signal<RevisionsView | null>(null);
  private readonly sheet = signal<SheetView | null>(null);
  protected readonly failure = signal<string | null>(null);
  protected readonly notice = signal('');
  protected readonly issuedOn = signal('');
  protected readonly source = signal('');
  protected readonly errata = signal<ErrataReading | null>(null);
  protected readonly isBusy = signal(false);
  protected readonly rows = viewChild(ErrataRows);
  protected readonly sheetParts = computed(() => this.sheet()?.parts ?? []);
  protected readonly next = computed(() => (this.view()?.revisions[0]?.number ?? 0) + 1);

  protected readonly valueText = valueText;
  protected readonly fieldText = fieldText;
  protected readonly partText = partText;

  hasEdits(): boolean {
    return this.notice().trim() !== '';
  }

  ngOnInit(): void {
    this.reader.warmUp();
    this.load();
  }

  private load(): void {
    forkJoin([this.api.revisions(this.sheetId()), this.api.sheet(this.sheetId())])
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: ([view, sheet]) => {
          this.view.set(view);
          this.sheet.set(sheet);
        },
        error: (error: unknown) => this.failure.set(troubleOf(error).message),
      });
  }

  /** Lays the notice against the sheet and shows what it changes; nothing is stored yet. */
  protected async read(): Promise<void> {
    const sheet = this.sheet();
    if (!sheet || this.notice().trim() === '') return;
    this.failure.set(null);
    try {
      this.errata.set(await this.reader.errata(this.notice(), sheetStructure(sheet)));
    } catch (error) {
      this.failure.set(error instanceof Error ? error.message : 'The notice could not be read.');
    }
  }

  /** Makes the revision; programs stay on theirs until they are moved. */
  protected make(): void {
    const [sheet, errata] = [this.sheet(), this.rows()?.chosen()];
    if (!sheet || !errata || this.isBusy()) return;
    this.isBusy.set(true);
    this.api
      .addRevision(sheet.id, sheet.version, this.revised(sheet, errata))
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: ({ revision }) => {
          this.revisionId = newId();
          this.isBusy.set(false);
          this.errata.set(null);
          this.notice.set('');
          this.messages.add({ severity: 'success', summary: `Revision ${revision.number} made`, life: 4000 });
          this.load();
        },
        error: (error: unknown) => {
          this.isBusy.set(false);
          const trouble = troubleOf(error);
          this.failure.set(trouble.message);
          if (trouble.code === 'version-stale') this.load();
        },
      });
  }

  private revised(sheet: SheetView, errata: ErrataReading): RevisionInput {
    const amended = amendSheet(sheetStructure(sheet), errata);
    const { body, year, division, instrument, choices, questions, publishedText, told } = sheet;
    return {
      revisionId: this.revisionId,
      issuedOn: this.issuedOn() === '' ? null : this.issuedOn(),
      note: this.source().trim(),
      body,
      year,
      division,
      instrument,
      deadlines: sheet.deadlines.map((deadline, n) => {
        const [date, endDate] = (amended.deadlines[n]?.date ?? '').split('/');
        return {
          ...deadline,
          id: newId(),
          date: date === '' || date === undefined ? null : date,
          endDate: endDate ?? null,
          time: amended.deadlines[n]?.time ?? deadline.time,
        };
      }),
      parts: amended.parts.map((part) => storedPart(part)),
      choices: choices ?? [],
      notes: [...amended.notes, ...keptByHand(errata, amended.notes)].map(({ kind, text }) => ({
        kind,
        text,
      })),
      questions: questions ?? [],
      publishedText: publishedText ?? null,
      told: told ?? null,
    };
  }

  /** Moves one program, or all, over to the newest revision. */
  protected move(programs: readonly ProgramBehind[]): void {
    this.api
      .movePrograms(
        this.sheetId(),
        programs.map(({ programId }) => programId),
      )
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: (view) => {
          this.view.set(view);
          const names = programs.map(({ studentName }) => studentName).join(', ');
          this.messages.add({
            severity: 'success',
            summary: `${names} moved over; reps and passages stay`,
            life: 5000,
          });
        },
        error: (error: unknown) => this.failure.set(troubleOf(error).message),
      });
  }
}

/** Sentences that were laid by hand stay as notes of the sheet. */
function keptByHand({ changes }: ErrataReading, notes: readonly SheetNote[]): SheetNote[] {
  const known = new Set(notes.map(({ text }) => text));
  return changes
    .filter(({ text }) => text !== '' && !known.has(text))
    .map(({ text }) => ({ kind: 'erratum', text }));
}
