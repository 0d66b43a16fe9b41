import { ChangeDetectionStrategy, Component, DestroyRef, inject, signal, type OnInit } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { MessageService } from 'primeng/api';
import { Button } from 'primeng/button';
import { InputNumber } from 'primeng/inputnumber';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { v7 as newId } from 'uuid';
import type { CalendarLinkView, Settings, SettingsView, StudentView } from '@vivid-cue/contract';
import { troubleOf } from '../data/problem';
import { SessionStore } from '../data/session-store';
import { StudioApi } from '../data/studio-api';
import type { Editing } from '../ui/unsaved-edits';
import { ProblemNote } from '../ui/problem-note';
import { CLIMB_SCHOOL_CHOICES, RUNG_RULE_CHOICES, SLIP_RULE_CHOICES, WEEKDAYS } from '../ui/school-choices';
import { AccountCard } from './account-card';
import { BookCard } from './book-card';

/** The studio's words, zone and default schools of practice, and its calendars. */
@Component({
  selector: 'vc-settings-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AccountCard, BookCard, Button, FormsModule, InputNumber, InputText, ProblemNote, Select],
  templateUrl: './settings-page.html',
  styleUrl: './settings-page.css',
})
export class SettingsPage implements OnInit, Editing {
  private isDirty = false;
  private readonly api = inject(StudioApi);
  private readonly session = inject(SessionStore);
  private readonly messages = inject(MessageService);
  private readonly destroyRef = inject(DestroyRef);

  protected readonly settings = signal<SettingsView | null>(null);
  protected readonly failure = signal<string | null>(null);
  protected readonly links = signal<readonly CalendarLinkView[]>([]);
  protected readonly students = signal<readonly StudentView[]>([]);
  protected readonly whose = signal<string | null>(null);
  protected readonly fresh = signal<string | null>(null);
  protected readonly zones = Intl.supportedValuesOf('timeZone')
    .concat('UTC')
    .map((value) => ({ value, label: value.replaceAll('_', ' ') }));

  protected readonly vocabularies = [
    { value: 'us', label: 'measure, quarter note, half note' },
    { value: 'uk', label: 'bar, crotchet, minim' },
  ];
  /** Each question on which instructors disagree, with its schools. */
  protected readonly schools = [
    {
      name: 'rungRule' as const,
      label: 'A rung is done after',
      why: 'Three in a row suits work alone; no surprises suits what comes before a run.',
      options: [...RUNG_RULE_CHOICES],
    },
    {
      name: 'climbSchool' as const,
      label: 'Reaching tempo',
      why: 'The steady climb keeps the evidence cleanest; the others put motion or line first.',
      options: [...CLIMB_SCHOOL_CHOICES],
    },
    {
      name: 'slipRule' as const,
      label: 'Slips on a rung',
      why: 'Two in a row say that the rung came too early.',
      options: [...SLIP_RULE_CHOICES],
    },
    {
      name: 'tempoPolicy' as const,
      label: 'Published tempo',
      why: 'Keep the number where the sheet states one; the gap is always shown.',
      options: [
        { value: 'keep', label: 'keep the number' },
        { value: 'own', label: 'slower, in command, with style' },
        { value: 'range', label: 'a range to choose in' },
      ],
    },
  ];

  protected readonly weekdays = [...WEEKDAYS];

  ngOnInit(): void {
    this.api
      .settings()
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: (settings) => this.settings.set(settings),
        error: (error: unknown) => this.failure.set(troubleOf(error).message),
      });
    this.loadLinks();
    this.api
      .season()
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: ({ rows }) => this.students.set(rows.map(({ student }) => student)),
        error: () => undefined,
      });
  }

  private loadLinks(): void {
    this.api
      .calendarLinks()
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({ next: (links) => this.links.set(links), error: () => undefined });
  }

  hasEdits(): boolean {
    return this.isDirty;
  }

  protected set<Name extends keyof Settings>(name: Name, value: Settings[Name]): void {
    this.isDirty = true;
    this.settings.update((settings) => settings && { ...settings, [name]: value });
  }

  protected setRest(day: number, isRest: boolean): void {
    const others = this.settings()?.restDays.filter((one) => one !== day) ?? [];
    this.set('restDays', isRest ? [...others, day] : others);
  }

  protected save(): void {
    const settings = this.settings();
    if (!settings) return;
    const { version, ...wish } = settings;
    this.api
      .changeSettings(version, { ...wish, studioName: wish.studioName.trim() })
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: (current) => {
          this.settings.set(current);
          this.isDirty = false;
          this.failure.set(null);
          this.session
            .refresh()
            .pipe(takeUntilDestroyed(this.destroyRef))
            .subscribe({ error: () => undefined });
          this.messages.add({ severity: 'success', summary: 'Settings saved', life: 4000 });
        },
        error: (error: unknown) => {
          const trouble = troubleOf(error);
          this.failure.set(trouble.message);
          if (trouble.code === 'version-stale') this.settings.set(trouble.current as SettingsView);
        },
      });
  }

  protected makeLink(): void {
    this.api
      .addCalendarLink({ id: newId(), studentId: this.whose() })
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: ({ path }) => {
          this.fresh.set(path === null ? null : `${location.origin}${path}`);
          this.loadLinks();
        },
        error: (error: unknown) => this.failure.set(troubleOf(error).message),
      });
  }

  protected revoke({ id }: CalendarLinkView): void {
    this.api
      .revokeCalendarLink(id)
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: () => this.loadLinks(),
        error: (error: unknown) => this.failure.set(troubleOf(error).message),
      });
  }

  protected dayText(instant: string): string {
    return new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric' }).format(
      new Date(instant),
    );
  }
}
