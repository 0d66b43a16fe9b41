import { inject, Injectable } from '@angular/core';
import { firstValueFrom } from 'rxjs';
import type { DeskScore, PassageView } from '@vivid-cue/contract';
import type { KindLook } from '@vivid-cue/core/cue-kinds';
import type { Span } from '@vivid-cue/core/spans';
import { ScoreApi } from './score-api';

/** The music of a part, with the passages in what is asked of it. Shape: no score where none was brought */
export interface MusicOfPart {
  readonly score: DeskScore | null;
  readonly runs: readonly Span[];
  readonly passages: readonly PassageView[];
  readonly looks: readonly KindLook[];
}

/** Where the music of a part comes from: the studio's score room, or what a desk holds. */
@Injectable()
export abstract class PartMusic {
  abstract of(programPartId: string): Promise<MusicOfPart>;
}

/** From the studio. */
@Injectable({ providedIn: 'root' })
export class StudioPartMusic extends PartMusic {
  private readonly api = inject(ScoreApi);

  async of(programPartId: string): Promise<MusicOfPart> {
    const { score, cues, runs, passages, book } = await firstValueFrom(this.api.room(programPartId));
    return { score: score && { ...score, cues }, runs, passages, looks: book.looks };
  }
}
