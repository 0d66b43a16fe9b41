import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { catchError, of } from 'rxjs';
import type { TimelineEntry, TimelineView } from '@vivid-cue/contract';
import { StudioApi } from '../data/studio-api';
import { dayText, daysText } from '../ui/texts';

/** How far ahead the line reaches at least. Units: days. */
const SHORTEST_DAYS = 28;

interface Mark {
  readonly entries: readonly TimelineEntry[];
  readonly left: number;
  readonly days: number;
}

/** Every date of the studio in one line of time: a mark a day, the nearest in words. */
@Component({
  selector: 'vc-date-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink],
  template: `
    @if (ahead().length) {
      <section aria-labelledby="dates-title">
        <h2 id="dates-title">Dates</h2>
        <div class="line" aria-hidden="true">
          @for (week of weeks(); track week.left) {
            <span class="week" [style.left.%]="week.left"
              ><span>{{ week.text }}</span></span
            >
          }
          @for (mark of marks(); track mark.days) {
            <span
              class="mark"
              [class.is-near]="mark.days <= 14"
              [class.is-audition]="hasAudition(mark)"
              [style.left.%]="mark.left"
              [title]="titleOf(mark)"
            ></span>
          }
        </div>
        <ol>
          @for (entry of ahead(); track entry.deadlineId) {
            <li [class.is-near]="entry.daysLeft <= 14">
              <strong class="days">{{ daysText(entry.daysLeft) }}</strong>
              <span class="what">{{ entry.what }}</span>
              <a [routerLink]="['/sheets', entry.sheetId]">{{ entry.sheetTitle }}</a>
              <span class="when mono">
                {{ dayText(entry.localDate) }}
                @if (entry.localTime) {
                  {{ entry.localTime }}
                }
                @if (otherZone(entry); as other) {
                  <span class="soft">({{ other }})</span>
                }
              </span>
              <span class="who soft">{{ names(entry) }}</span>
            </li>
          }
        </ol>
        @if (rest() > 0) {
          <p class="soft small">and {{ rest() }} more, on their sheets</p>
        }
      </section>
    }
  `,
  styles: `
    section {
      margin-top: 30px;
    }
    h2 {
      margin-bottom: 6px;
    }
    .line {
      position: relative;
      height: 44px;
      margin: 0 8px 10px;
      border-bottom: 2px solid var(--ink);
    }
    .week {
      position: absolute;
      bottom: 0;
      height: 10px;
      border-left: 1px solid var(--rule-strong);
    }
    .week span {
      position: absolute;
      bottom: 12px;
      left: 0;
      color: var(--ink-soft);
      font-size: 13px;
      white-space: nowrap;
      transform: translateX(-50%);
    }
    .week:first-child span {
      transform: none;
    }
    .mark {
      position: absolute;
      bottom: -7px;
      width: 12px;
      height: 12px;
      border: 2px solid var(--ink);
      border-radius: 50%;
      background: var(--sheet);
      transform: translateX(-50%);
    }
    .mark.is-audition {
      border-radius: 2px;
      background: var(--ink);
    }
    .mark.is-near {
      border-color: var(--vivid);
    }
    .mark.is-near.is-audition {
      background: var(--vivid);
    }
    ol {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: grid;
      grid-template-columns: 90px 130px minmax(0, 1.6fr) minmax(0, 1.5fr) minmax(0, 1.2fr);
      gap: 4px 16px;
      align-items: baseline;
      padding: 7px 0 7px 10px;
      border-bottom: 1px solid var(--rule);
      border-left: 4px solid transparent;
    }
    li.is-near {
      border-left-color: var(--vivid);
    }
    .when {
      font-size: 15px;
    }
    @media (max-width: 900px) {
      li {
        grid-template-columns: 90px minmax(0, 1fr);
      }
      .when,
      .who,
      li a {
        grid-column: 2;
      }
    }
  `,
})
export class DateLine {
  private readonly loaded = toSignal(
    inject(StudioApi)
      .timeline()
      .pipe(catchError(() => of<TimelineView>({ zone: 'UTC', entries: [] }))),
    { initialValue: { zone: 'UTC', entries: [] } },
  );
  private readonly future = computed(() => this.loaded().entries.filter(({ daysLeft }) => daysLeft >= 0));
  protected readonly ahead = computed(() => this.future().slice(0, 8));
  protected readonly rest = computed(() => this.future().length - this.ahead().length);
  private readonly spanDays = computed(
    () => Math.max(SHORTEST_DAYS, ...this.future().map(({ daysLeft }) => daysLeft)) + 3,
  );
  protected readonly marks = computed((): readonly Mark[] => {
    const byDay = new Map<number, TimelineEntry[]>();
    for (const entry of this.future())
      byDay.set(entry.daysLeft, [...(byDay.get(entry.daysLeft) ?? []), entry]);
    return [...byDay].map(([days, entries]) => ({ days, entries, left: (days / this.spanDays()) * 100 }));
  });
  protected readonly weeks = computed(() => {
    const step = this.spanDays() > 120 ? 28 : this.spanDays() > 56 ? 14 : 7;
    return Array.from({ length: Math.floor(this.spanDays() / step) + 1 }, (_, n) => ({
      left: ((n * step) / this.spanDays()) * 100,
      text: n === 0 ? 'today' : `${n * step} days`,
    }));
  });
  protected readonly daysText = daysText;
  protected readonly dayText = dayText;

  protected hasAudition({ entries }: Mark): boolean {
    return entries.some(({ what }) => what === 'audition');
  }

  protected titleOf({ entries, days }: Mark): string {
    return `${daysText(days)}: ${entries.map(({ what, sheetTitle }) => `${what}, ${sheetTitle}`).join('; ')}`;
  }

  /** The body's own day, time and zone where the studio's differ. */
  protected otherZone(entry: TimelineEntry): string | null {
    const isSame =
      entry.zone === this.loaded().zone || (entry.time === null && entry.date === entry.localDate);
    if (isSame || entry.time === null) return null;
    const zone = entry.zone.replaceAll('_', ' ');
    return entry.time === entry.localTime ? zone : `${entry.time} ${zone}`;
  }

  protected names({ students }: TimelineEntry): string {
    const first = students.slice(0, 3).map(({ name }) => name.split(' ')[0] ?? name);
    return students.length > 3 ? `${first.join(', ')} and ${students.length - 3} more` : first.join(', ');
  }
}
