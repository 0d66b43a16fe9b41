import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { Button } from 'primeng/button';
import { catchError, of, switchMap } from 'rxjs';
import { v7 as newId } from 'uuid';
import { tempoText } from '@vivid-cue/core/music';
import type { FromStudentView, StudentLinkView, SurpriseView } from '@vivid-cue/contract';
import { troubleOf } from '../data/problem';
import { StudioApi } from '../data/studio-api';
import { ProblemNote } from '../ui/problem-note';
import { StudioWords } from '../ui/studio-words';

/** A link that was just made, with its picture. */
interface FreshLink {
  readonly address: string;
  readonly code: string;
  readonly picture: string;
}

/** The student's desk as the instructor sees it: the personal link, and what the student sent. */
@Component({
  selector: 'vc-desk-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, ProblemNote, StudioWords],
  templateUrl: './desk-card.html',
  styleUrl: './desk-card.css',
})
export class DeskCard {
  private readonly api = inject(StudioApi);
  private readonly destroyRef = inject(DestroyRef);

  readonly studentId = input.required<string>();
  readonly name = input.required<string>();
  readonly sent = input.required<FromStudentView>();
  readonly reports = input('');
  /** Something was looked at: the page shows what is left. */
  readonly changed = output<void>();

  protected readonly links = signal<readonly StudentLinkView[]>([]);
  protected readonly fresh = linkedSignal<string, FreshLink | null>({
    source: () => this.studentId(),
    computation: () => null,
  });
  protected readonly failure = signal<string | null>(null);
  protected readonly isBusy = signal(false);
  protected readonly lastUsed = computed(() => {
    const used = this.links().flatMap(({ lastUsedAt }) => (lastUsedAt === null ? [] : [lastUsedAt]));
    return used.sort().at(-1) ?? null;
  });

  constructor() {
    toObservable(this.studentId)
      .pipe(
        switchMap((id) => this.api.studentLinks(id).pipe(catchError(() => of<StudentLinkView[]>([])))),
        takeUntilDestroyed(),
      )
      .subscribe((links) => this.links.set(links));
  }

  protected make(): void {
    this.isBusy.set(true);
    this.api
      .addStudentLink(this.studentId(), newId())
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: (link) => void this.show(link),
        error: (error: unknown) => this.fail(error),
      });
  }

  private async show(link: StudentLinkView): Promise<void> {
    this.isBusy.set(false);
    this.links.update((links) => [link, ...links]);
    if (link.code === null) return;
    const address = `${location.origin}${link.path}`;
    const picture = await pictureOf(`${address}#${link.code}`);
    this.fresh.set({ address, code: link.code, picture });
  }

  protected revoke({ id }: StudentLinkView): void {
    this.api
      .revokeStudentLink(id)
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: () => {
          this.links.update((links) => links.filter((link) => link.id !== id));
          this.fresh.set(null);
        },
        error: (error: unknown) => this.fail(error),
      });
  }

  protected lookedAt({ id }: SurpriseView): void {
    this.done(this.api.clearSurprise(id));
  }

  protected seen(id: string): void {
    this.done(this.api.seeNote(id));
  }

  private done(call: ReturnType<StudioApi['seeNote']>): void {
    call.pipe(takeUntilDestroyed(this.destroyRef)).subscribe({
      next: () => this.changed.emit(),
      error: (error: unknown) => this.fail(error),
    });
  }

  private fail(error: unknown): void {
    this.isBusy.set(false);
    this.failure.set(troubleOf(error).message);
  }

  protected async copy(text: string): Promise<void> {
    await navigator.clipboard.writeText(text).catch(() => undefined);
  }

  protected print(): void {
    window.print();
  }

  protected tempo({ bpm, beatUnit }: SurpriseView): string {
    return tempoText(Math.round(bpm), beatUnit);
  }

  protected dayText(instant: string): string {
    return new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long' }).format(new Date(instant));
  }
}

/** An address as a picture for a camera. Source: ISO/IEC 18004, drawn by the library */
async function pictureOf(address: string): Promise<string> {
  const { default: qrcode } = await import('qrcode-generator');
  const code = qrcode(0, 'M');
  code.addData(address);
  code.make();
  return code.createDataURL(6, 8);
}
