import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { ButtonDirective } from 'primeng/button';
import { catchError, map, of } from 'rxjs';
import type { SheetLine } from '@vivid-cue/contract';
import { troubleOf } from '../data/problem';
import { StudioApi } from '../data/studio-api';
import { ProblemNote } from '../ui/problem-note';
import { daysText } from '../ui/texts';

/** Every sheet of the studio. */
@Component({
  selector: 'vc-sheet-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ButtonDirective, ProblemNote, RouterLink],
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
                  @if (sheet.next; as next) {
                    <strong>{{ daysText(next.daysLeft) }}</strong> · {{ next.what }}
                  } @else {
                    <span class="soft">all dates past</span>
                  }
                </span>
              </li>
            }
          </ul>
        }
      }
    </div>
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
      grid-template-columns: minmax(0, 3fr) 1fr 90px 110px 190px;
      gap: 4px 20px;
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
  protected readonly loaded = toSignal(
    inject(StudioApi)
      .sheets()
      .pipe(
        map((sheets): { sheets: SheetLine[] | null; failure: string | null } => ({ sheets, failure: null })),
        catchError((error: unknown) => of({ sheets: null, failure: troubleOf(error).message })),
      ),
    { initialValue: { sheets: null, failure: null } },
  );
  protected readonly daysText = daysText;
}
