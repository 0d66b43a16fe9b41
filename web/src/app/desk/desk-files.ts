import { inject, Injectable } from '@angular/core';
import { firstValueFrom } from 'rxjs';
import { DeskApi } from '../data/desk-api';
import { DeskOutbox } from '../data/desk-outbox';
import { MusicFiles } from '../data/music-files';
import { keepDeskOffline } from './keep-offline';

/** The files of a desk: from this device, else from the server, and from then on from this device. */
@Injectable({ providedIn: 'root' })
export class DeskFiles extends MusicFiles {
  private readonly api = inject(DeskApi);
  private readonly outbox = inject(DeskOutbox);

  async score(scoreId: string): Promise<ArrayBuffer> {
    const bytes = await this.kept(scoreId, () => firstValueFrom(this.api.file(scoreId)));
    return bytes instanceof Blob ? bytes.arrayBuffer() : bytes;
  }

  async page(pageId: string): Promise<Blob> {
    const bytes = await this.kept(`page ${pageId}`, () => firstValueFrom(this.api.page(pageId, 'lines')));
    return bytes instanceof Blob ? bytes : new Blob([bytes]);
  }

  /** What engraves is fetched while it is kept, so that the next visit needs no connection. */
  override ready(): Promise<void> {
    return keepDeskOffline();
  }

  private async kept(id: string, fetch: () => Promise<ArrayBuffer | Blob>): Promise<ArrayBuffer | Blob> {
    const { files } = this.outbox.database;
    const kept = await files.get(id).catch(() => undefined);
    if (kept) return kept.bytes;
    const bytes = await fetch();
    await files.put({ id, bytes }).catch(() => undefined);
    return bytes;
  }
}
