import { inject, Pipe, type PipeTransform } from '@angular/core';
import { inVocabulary } from '@vivid-cue/core/music';
import { SessionStore } from '../data/session-store';

/** A text of ours in the studio's words: measures become bars, quarter notes crotchets. */
@Pipe({ name: 'studioWords', pure: false })
export class StudioWords implements PipeTransform {
  private readonly session = inject(SessionStore);

  transform(text: string): string {
    return inVocabulary(text, this.session.vocabulary());
  }
}
