import { inject, Injectable } from '@angular/core';
import { catchError, of, type Observable, switchMap, from } from 'rxjs';
import { quarterBpm, type BeatUnit } from '@vivid-cue/core/music';
import { joined } from '../data/joined';
import type { MusicFiles } from '../data/music-files';
import type { MusicOfPart } from '../data/part-music';
import { TakeReaderClient, type TakeNews } from '../data/take-reader';

/** A take to be read, and what it is of. Shape: recorded pieces, or the file as it is stored */
export interface TakeToStudy {
  readonly sound:
    { readonly pieces: readonly Int16Array[]; readonly rate: number } | { readonly file: ArrayBuffer };
  readonly music: MusicOfPart | null;
  readonly withRepeats: boolean;
  readonly tempo: { readonly bpm: number; readonly beatUnit: BeatUnit } | null;
}

/** What a stored take is decoded at: the rate at which it is read. Units: samples a second */
const READ_RATE = 22_050;

const NO_SCORE: TakeNews = {
  failure: 'This part has no music here yet: listen, tap what slipped, and tap the downbeats for its pulse.',
  hasNoNotes: true,
};

const NOT_HERE: TakeNews = {
  failure:
    'The music or the sound is not on this device just now: listen and tap; it is read when there is a connection.',
  hasNoNotes: false,
};

/** Holds a take against the music of its part. */
@Injectable({ providedIn: 'root' })
export class TakeStudy {
  private readonly reader = inject(TakeReaderClient);

  /** Shape: progress, then what it says or why it says nothing; who unsubscribes stops it */
  read(take: TakeToStudy, files: MusicFiles): Observable<TakeNews> {
    const { music } = take;
    if (!music?.score) return of(NO_SCORE);
    const { id, digest } = music.score;
    const ready = Promise.all([files.score(id), samplesOf(take.sound)]);
    return from(ready).pipe(
      switchMap(([score, { samples, rate }]) =>
        this.reader.read({
          ...{ samples, rate, score, partId: digest.partId },
          numbers: digest.measures.map(({ number }) => number),
          ...{ spans: music.runs, withRepeats: take.withRepeats },
          quarterBpm: take.tempo && quarterBpm(take.tempo.bpm, take.tempo.beatUnit),
        }),
      ),
      catchError(() => of(NOT_HERE)),
    );
  }
}

async function samplesOf(
  sound: TakeToStudy['sound'],
): Promise<{ readonly samples: Float32Array<ArrayBuffer>; readonly rate: number }> {
  if ('pieces' in sound) {
    return { samples: joined(sound.pieces), rate: sound.rate };
  }
  const decoded = await new OfflineAudioContext(1, 1, READ_RATE).decodeAudioData(sound.file);
  return { samples: decoded.getChannelData(0).slice(), rate: READ_RATE };
}
