import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type { MenuItem } from 'primeng/api';
import { Button } from 'primeng/button';
import { Menu } from 'primeng/menu';
import type { FileCue } from '@vivid-cue/core/cues';
import { measuresText, tempoText } from '@vivid-cue/core/music';
import { readToldLine, rowsOfPages, startOfMusic, type PageRow } from '@vivid-cue/core/paper';
import { spanInWords, type Span } from '@vivid-cue/core/score';
import type { CueView } from '@vivid-cue/contract';
import { Engraver } from '../../data/engraver';
import { fileNameOf, handOver } from '../../data/hand-over';
import { PdfMaker } from '../../data/pdf-maker';
import { ScoreApi } from '../../data/score-api';
import { SessionStore } from '../../data/session-store';
import { Sharer } from '../../data/sharer';
import type { EngravedPicture } from '../../report/drill-sheet';
import { ReadingStore } from '../findings/reading-store';
import { RoomStore } from '../room/room-store';
import { ScoreFile } from '../score-file';

/** Hands the open score on with its cues: to other programs, to paper, to the ear. */
@Component({
  selector: 'vc-share-menu',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Menu],
  template: `
    <p-button
      label="Hand on"
      icon="pi pi-share-alt"
      size="small"
      severity="secondary"
      [text]="true"
      [loading]="isBusy()"
      (onClick)="menu.toggle($event)"
    />
    <p-menu #menu [model]="items()" [popup]="true" appendTo="body" />
  `,
})
export class ShareMenu {
  private readonly store = inject(RoomStore);
  private readonly file = inject(ScoreFile);
  private readonly reading = inject(ReadingStore);
  private readonly sharer = inject(Sharer);
  private readonly pdf = inject(PdfMaker);
  private readonly engraver = inject(Engraver);
  private readonly api = inject(ScoreApi);
  private readonly session = inject(SessionStore);

  readonly selection = input<Span | null>(null);

  protected readonly isBusy = signal(false);
  private readonly isDigital = computed(() => this.file.part() !== null);
  protected readonly items = computed((): MenuItem[] => {
    const digital: MenuItem[] = [
      {
        label: 'Score with cues (MusicXML)',
        icon: 'pi pi-file',
        command: () => void this.run(() => this.musicXml()),
      },
      {
        label: this.selection() ? 'Selection as sound (MIDI)' : 'All of it as sound (MIDI)',
        icon: 'pi pi-volume-up',
        command: () => void this.run(() => this.midi()),
      },
    ];
    const paper: MenuItem[] = [
      {
        label: 'Print with cues',
        icon: 'pi pi-print',
        command: () => void this.run(async () => this.pdf.print(await this.sheet())),
      },
      {
        label: 'Pages with cues (PDF)',
        icon: 'pi pi-file-pdf',
        command: () => void this.run(async () => this.pdf.save(await this.sheet(), `${this.title()} cues`)),
      },
    ];
    return [...(this.isDigital() ? digital : []), ...paper];
  });

  private title(): string {
    const room = this.store.room();
    return room?.workTitle || (room?.score?.digest.title ?? '') || (room?.partLabel ?? 'score');
  }

  /** Cues as a file carries them. */
  private fileCues(): FileCue[] {
    return (this.store.room()?.cues ?? []).map(
      ({ kind, fromIndex, endIndex, note, beat, sign, text, status, reason, author, alternatives }) => ({
        ...{ kind, fromIndex, endIndex, note, beat, sign, text, status, reason, author, alternatives },
      }),
    );
  }

  private async musicXml(): Promise<void> {
    const [room, own] = [this.store.room(), this.file.own()];
    if (!room || !own) return;
    const { bytes, part } = own;
    const wish = { bytes, partId: part.partId, cues: this.fileCues(), looks: room.book.looks };
    const file = new Blob([await this.sharer.withCues(wish)], { type: MUSIC_XML });
    handOver(file, fileNameOf(`${this.title()} cues`, 'musicxml'));
  }

  private async midi(): Promise<void> {
    const [room, own] = [this.store.room(), this.file.own()];
    if (!room?.score || !own) return;
    const { measures } = room.score.digest;
    const span = this.selection() ?? { fromIndex: 0, endIndex: measures.length };
    const where = this.selection() ? ` ${spanInWords(measures, span, this.session.vocabulary())}` : '';
    const title = `${this.title()}${where}`;
    const { bytes, part } = own;
    const { instrument } = room.student;
    const quarterBpm = this.file.targetQuarterBpm();
    const file = await this.sharer.midi({ bytes, partId: part.partId, span, quarterBpm, instrument, title });
    handOver(file, fileNameOf(title, 'mid'));
  }

  private async sheet(): Promise<Parameters<PdfMaker['print']>[0]> {
    const room = this.store.room();
    if (!room) throw new Error('The score is not open any more.');
    const { scoreSheet } = await import('../../report/score-sheet');
    const vocabulary = this.session.vocabulary();
    const { target, sheetTitle, partLabel, askedText } = room;
    const tempo = target ? tempoText(target.bpm, target.beatUnit) : '';
    return scoreSheet({
      ...{ title: this.title(), student: room.student.name, looks: room.book.looks },
      facts: [sheetTitle, partLabel, askedText, tempo].filter((text) => text !== '').join(' · '),
      pictures: await this.pictures(room.cues),
      cues: room.cues.map(({ kind, sign, text, from, to, note }) => ({
        ...{ kind, sign, text },
        where: `${measuresText(from, to, vocabulary)}${note === null ? '' : `, note ${note}`}`,
      })),
    });
  }

  private async pictures(cues: readonly CueView[]): Promise<EngravedPicture[]> {
    const [room, own, paper] = [this.store.room(), this.file.own(), this.file.paper()];
    const { engravedLines, pagedLines } = await import('./score-pictures');
    const looks = room?.book.looks ?? [];
    if (own && room?.score) {
      const { bytes, part } = own;
      // Signs stand on the music; words stand beside it, where they cover nothing.
      const signed = this.fileCues().flatMap((cue) => (cue.sign === '' ? [] : [{ ...cue, text: '' }]));
      const musicXml = await this.sharer.withCues({ bytes, partId: part.partId, cues: signed, looks });
      const engraved = this.reading.result()?.engraved ?? [];
      const weights = room.score.digest.measures.map((_, n) => (engraved[n]?.length ?? 4) + 3);
      const pictures: EngravedPicture[] = [];
      for (const span of room.runs.length > 0 ? room.runs : [{ fromIndex: 0, endIndex: weights.length }])
        pictures.push(
          ...(await engravedLines(this.engraver, { ...part, musicXml }, { span, weights, cues, looks })),
        );
      return pictures;
    }
    if (!paper) return [];
    const { music } = readToldLine(paper.line);
    const cuesAt = new Map<number, CueView[]>();
    for (const cue of cues) cuesAt.set(Number(cue.from), [...(cuesAt.get(Number(cue.from)) ?? []), cue]);
    const rows = rowsOfPages(paper.pages, { start: music ? startOfMusic(music) : 1, most: 1 });
    const urlOf = (row: PageRow): string => this.api.pageUrl(row.picture, 'lines');
    return pagedLines(rows, { pages: paper.pages, urlOf, cuesAt, looks });
  }

  private async run(work: () => Promise<void>): Promise<void> {
    this.isBusy.set(true);
    try {
      await work();
      this.store.failure.set(null);
    } catch (error) {
      this.store.failure.set(error instanceof Error ? error.message : 'The file could not be made.');
    } finally {
      this.isBusy.set(false);
    }
  }
}

const MUSIC_XML = 'application/vnd.recordare.musicxml+xml';
