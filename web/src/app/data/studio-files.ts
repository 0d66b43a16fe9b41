import { HttpClient } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import { firstValueFrom } from 'rxjs';
import { pathOf } from '@vivid-cue/contract/routes';
import { MusicFiles } from './music-files';
import { ScoreApi } from './score-api';

/** The studio's files; those that were shown are kept while the page is open. */
@Injectable({ providedIn: 'root' })
export class StudioFiles extends MusicFiles {
  private readonly http = inject(HttpClient);
  private readonly api = inject(ScoreApi);
  private readonly known = new Map<string, Promise<ArrayBuffer>>();

  score(scoreId: string): Promise<ArrayBuffer> {
    const known = this.known.get(scoreId) ?? firstValueFrom(this.api.file(scoreId));
    this.known.set(scoreId, known);
    known.catch(() => this.known.delete(scoreId));
    return known.then((bytes) => bytes.slice(0));
  }

  page(pageId: string): Promise<Blob> {
    const wish = { params: { size: 'lines' }, responseType: 'blob' as const };
    return firstValueFrom(this.http.get(pathOf('readPagePicture', { pageId }), wish));
  }
}
