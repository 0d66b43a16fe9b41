import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { MessageService } from 'primeng/api';
import { Button, ButtonDirective } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { catchError, map, of, startWith, Subject, switchMap } from 'rxjs';
import type { SheetLine } from '@vivid-cue/contract';
import { troubleOf } from '../data/problem';
import { StudioApi } from '../data/studio-api';
import { ProblemNote } from '../ui/problem-note';
import { GiveSheet } from './give-sheet';
import { daysText } from '../ui/texts';
import { UndoNotice } from '../ui/undo-notice';

/** Every sheet of the studio. */
@Component({
  selector: 'vc-sheet-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, ButtonDirective, Dialog, GiveSheet, ProblemNote, RouterLink],
  template: `
    <div class="page">
      <div class="page-head">
        <div>
          <h1>Sheets</h1>
          <p class="soft">What each audition body asks, by division and instrument.</p>
        </div>
        <div class="actions"><a pButton routerLink="/sheets/new">Enter a sheet</a></div>
      </div>
      <vc-problem-note [message]="loaded().failure" />
      @if (loaded().sheets; as sheets) {
        @if (sheets.length === 0) {
          <div class="empty">
            <h2>No sheets yet</h2>
            <p>
              Enter what an audition body published: the dates, and each part with its measures and tempo.
            </p>
            <a pButton routerLink="/sheets/new">Enter a sheet</a>
          </div>
        } @else {
          <ul>
            @for (sheet of sheets; track sheet.id) {
              <li>
                <a [routerLink]="['/sheets', sheet.id]">{{ sheet.title }}</a>
                <span>{{ sheet.instrument }}</span>
                <span class="soft">{{ sheet.parts }} {{ sheet.parts === 1 ? 'part' : 'parts' }}</span>
                <span class="soft"
                  >{{ sheet.programs }} {{ sheet.programs === 1 ? 'student' : 'students' }}</span
                >
                <span class="date">
                  @if (sheet.behind) {
                    <a class="attend" [routerLink]="['/sheets', sheet.id, 'revisions']"
                      >{{ sheet.behind }} on an older revision</a
                    >
                  } @else if (sheet.openQuestions) {
                    <a class="attend" [routerLink]="['/sheets', sheet.id]"
                      >{{ sheet.openQuestions }} open
                      {{ sheet.openQuestions === 1 ? 'question' : 'questions' }}</a
                    >
                  }
                </span>
                <span class="date">
                  @if (sheet.next; as next) {
                    <strong>{{ daysText(next.daysLeft) }}</strong> · {{ next.what }}
                  } @else {
                    <span class="soft">no date ahead</span>
                  }
                </span>
                <p-button
                  label="Give it to …"
                  size="small"
                  severity="secondary"
                  [text]="true"
                  [ariaLabel]="'Give ' + sheet.title + ' to students'"
                  (onClick)="giving.set(sheet)"
                />
                <p-button
                  icon="pi pi-times"
                  size="small"
                  severity="secondary"
                  [text]="true"
                  [ariaLabel]="'Remove ' + sheet.title"
                  (onClick)="askRemoval(sheet)"
                />
              </li>
            }
          </ul>
        }
      }
    </div>
    <vc-give-sheet [sheet]="giving()" (closed)="giving.set(null)" (given)="given($event)" />
    <p-dialog
      closeAriaLabel="Close"
      header="Remove this sheet?"
      [modal]="true"
      [draggable]="false"
      [visible]="leaving() !== null"
      (visibleChange)="leaving.set(null)"
      [style]="{ width: '440px', maxWidth: '94vw' }"
    >
      @if (leaving(); as sheet) {
        <p>
          {{ sheet.title }} is used by {{ sheet.programs }}
          {{ sheet.programs === 1 ? 'student' : 'students' }}. Their programs go along; passages and reps
          stay. You can undo it for 30 days.
        </p>
        <div class="end">
          <p-button label="Keep it" severity="secondary" [text]="true" (onClick)="leaving.set(null)" />
          <p-button label="Remove it" severity="danger" (onClick)="remove(sheet)" />
        </div>
      }
    </p-dialog>
  `,
  styles: `
    ul {
      margin: 0;
      padding: 0;
      border-top: 1px solid var(--ink);
      list-style: none;
    }
    li {
      display: grid;
      grid-template-columns: minmax(0, 3fr) 1fr 64px 90px 180px 160px 110px 40px;
      gap: 4px 16px;
      align-items: baseline;
      padding: 14px 0 14px 14px;
      border-bottom: 1px solid var(--rule);
    }
    li a {
      color: var(--ink);
      font-family: var(--font-title);
      font-size: 18px;
      font-weight: 600;
      text-decoration: none;
    }
    li a.attend {
      padding: 2px 10px;
      border-radius: 12px;
      background: var(--vivid-wash);
      color: var(--vivid-text);
      font-family: var(--font-text);
      font-size: 14px;
    }
    .end {
      display: flex;
      gap: 10px;
      justify-content: flex-end;
      margin-top: 16px;
    }
    li a:hover {
      text-decoration: underline;
    }
    @media (max-width: 820px) {
      li {
        grid-template-columns: 1fr 1fr;
        padding-left: 0;
      }
      li a {
        grid-column: 1 / -1;
      }
    }
  `,
})
export class SheetList {
  private readonly api = inject(StudioApi);
  private readonly notice = inject(UndoNotice);
  private readonly messages = inject(MessageService);
  private readonly destroyRef = inject(DestroyRef);
  private readonly reload$ = new Subject<void>();
  private readonly refusal = signal<string | null>(null);
  protected readonly leaving = signal<SheetLine | null>(null);
  protected readonly giving = signal<SheetLine | null>(null);
  private readonly list = toSignal(
    this.reload$.pipe(
      startWith(undefined),
      switchMap(() =>
        this.api.sheets().pipe(
          map((sheets): { sheets: SheetLine[] | null; failure: string | null } => ({
            sheets,
            failure: null,
          })),
          catchError((error: unknown) => of({ sheets: null, failure: troubleOf(error).message })),
        ),
      ),
    ),
    { initialValue: { sheets: null, failure: null } },
  );
  protected readonly loaded = computed(() => ({
    ...this.list(),
    failure: this.refusal() ?? this.list().failure,
  }));
  protected readonly daysText = daysText;

  protected given(count: number): void {
    const title = this.giving()?.title ?? '';
    this.giving.set(null);
    this.reload$.next();
    const who = count === 1 ? 'one student' : `${count} students`;
    this.messages.add({ severity: 'secondary', summary: `${title} given to ${who}`, life: 6000 });
  }

  /** A sheet that nobody uses goes at once, with Undo; else it is said who is touched first. */
  protected askRemoval(sheet: SheetLine): void {
    if (sheet.programs === 0) this.remove(sheet);
    else this.leaving.set(sheet);
  }

  protected remove({ id, title }: SheetLine): void {
    this.leaving.set(null);
    this.api
      .removeSheet(id)
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: ({ programs }) => {
          const names = programs.map(({ studentName }) => studentName).join(', ');
          this.reload$.next();
          this.notice.offer({
            done: `${title} removed`,
            ...(names !== '' && { detail: `With the programs of ${names}` }),
            undone: `${title} is here again`,
            undo: () => this.api.restoreSheet(id),
            back: () => this.reload$.next(),
          });
        },
        error: (error: unknown) => this.refusal.set(troubleOf(error).message),
      });
  }
}
