import { computed, inject, Injectable } from '@angular/core';
import { inVocabulary, withSigns } from '@vivid-cue/core/music';
import { inFamilyWords, instrumentProfile } from '@vivid-cue/core/reading';
import { SessionStore } from '../../data/session-store';
import { RoomStore } from './room-store';

/** Says what was read in the studio's words, for the instrument of the student whose part it is. */
@Injectable()
export class RoomWords {
  private readonly session = inject(SessionStore);
  private readonly room = inject(RoomStore);
  private readonly instrument = computed(() => this.room.room()?.student.instrument ?? '');
  private readonly profile = computed(() => instrumentProfile(this.instrument()));

  say(text: string): string {
    return withSigns(inVocabulary(inFamilyWords(text, this.profile()), this.session.vocabulary()));
  }
}
