import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  Injector,
  signal,
} from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { NavigationEnd, Router, RouterLink, RouterOutlet } from '@angular/router';
import type { MenuItem } from 'primeng/api';
import { MessageService } from 'primeng/api';
import { Menu } from 'primeng/menu';
import { ConfirmDialog } from 'primeng/confirmdialog';
import { Toast } from 'primeng/toast';
import { filter, map } from 'rxjs';
import { fetchAhead } from '../data/fetch-ahead';
import { PlaceStore } from '../data/place-store';
import { troubleOf } from '../data/problem';
import { SessionStore } from '../data/session-store';
import { ShortcutSheet } from '../ui/shortcut-sheet';
import { isTyping } from '../ui/typing';

const THEME_KEY = 'vivid-cue-theme';
/** What no page needs at once comes so long after it. Units: milliseconds */
const LATER_MS = 4000;

/** One step of the work line. */
interface Step {
  readonly name: string;
  readonly link: readonly string[] | null;
  readonly isHere: boolean;
  readonly hint: string;
}

/** The frame around every page: the work line, the keys, who is signed in. */
@Component({
  selector: 'vc-frame',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ConfirmDialog, Menu, RouterLink, RouterOutlet, ShortcutSheet, Toast],
  templateUrl: './frame.html',
  styleUrl: './frame.css',
  host: { '(document:keydown)': 'onKey($event)' },
})
export class Frame {
  private readonly router = inject(Router);
  private readonly session = inject(SessionStore);
  private readonly place = inject(PlaceStore);
  private readonly messages = inject(MessageService);
  private readonly destroyRef = inject(DestroyRef);
  private readonly injector = inject(Injector);

  protected readonly isKeysOpen = signal(false);
  protected readonly instructor = this.session.instructor;
  private readonly isDim = signal(localStorage.getItem(THEME_KEY) === 'dim');
  private readonly url = toSignal(
    this.router.events.pipe(
      filter((event) => event instanceof NavigationEnd),
      map(({ urlAfterRedirects }) => urlAfterRedirects),
    ),
    { initialValue: this.router.url },
  );
  protected readonly isFramed = computed(() => this.instructor() !== null);
  protected readonly steps = computed((): readonly Step[] => {
    const url = this.url();
    const { studentId, programId, programPartId } = this.place;
    const [student, program, partId] = [studentId(), programId(), programPartId()];
    const isClimb = url.endsWith('/climb');
    const isTakes = url.startsWith('/takes') || /^\/students\/[^/]+\/takes/u.test(url);
    return [
      { name: 'Season', link: ['/season'], isHere: url.startsWith('/season'), hint: 'All students' },
      { name: 'Sheet', link: ['/sheets'], isHere: url.startsWith('/sheets'), hint: 'What is asked' },
      {
        name: 'Program',
        link: program !== null ? ['/programs', program] : student === null ? null : ['/students', student],
        isHere: (url.startsWith('/students') || url.startsWith('/programs')) && !isClimb && !isTakes,
        hint: 'Open a student first',
      },
      {
        name: 'Score',
        link: partId === null ? null : ['/score', partId],
        isHere: url.startsWith('/score'),
        hint: 'Open a score first',
      },
      {
        name: 'Climb',
        link: student === null ? null : ['/students', student, 'climb'],
        isHere: isClimb,
        hint: 'Open a student first',
      },
      {
        name: 'Takes',
        link: student === null ? null : ['/students', student, 'takes'],
        isHere: isTakes,
        hint: 'Open a student first',
      },
      { name: 'Mock', link: ['/mocks'], isHere: url.startsWith('/mocks'), hint: 'Rehearse the day' },
    ];
  });
  protected readonly menuItems = computed((): MenuItem[] => [
    { label: 'Settings', icon: 'pi pi-cog', command: () => void this.router.navigateByUrl('/settings') },
    {
      label: this.isDim() ? 'Light theme' : 'Dim theme',
      icon: this.isDim() ? 'pi pi-sun' : 'pi pi-moon',
      command: () => this.turnTheme(),
    },
    { label: 'Keys', icon: 'pi pi-question-circle', command: () => this.isKeysOpen.set(true) },
    { label: 'Sign out', icon: 'pi pi-sign-out', command: () => this.signOut() },
  ]);

  constructor() {
    // Takes that wait are sent wherever somebody is.
    fetchAhead(LATER_MS, () => this.sendTakes())
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe();
    document.documentElement.classList.toggle('dim', this.isDim());
  }

  private async sendTakes(): Promise<void> {
    const { TakeOutbox } = await import('../data/take-outbox');
    const instructor = this.instructor();
    if (instructor) this.injector.get(TakeOutbox).open({ door: 'studio', ownerId: instructor.studioId });
  }

  protected onKey(event: KeyboardEvent): void {
    if (event.key !== '?' || isTyping(event) || !this.isFramed()) return;
    event.preventDefault();
    this.isKeysOpen.set(true);
  }

  private turnTheme(): void {
    this.isDim.update((isDim) => !isDim);
    document.documentElement.classList.toggle('dim', this.isDim());
    localStorage.setItem(THEME_KEY, this.isDim() ? 'dim' : 'light');
  }

  private signOut(): void {
    this.session
      .signOut()
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: () => {
          this.place.studentId.set(null);
          this.place.programId.set(null);
          this.place.programPartId.set(null);
          void this.router.navigateByUrl('/sign-in');
        },
        error: (error: unknown) =>
          this.messages.add({
            severity: 'error',
            summary: 'Still signed in',
            detail: troubleOf(error).message,
          }),
      });
  }
}
