import { computed, inject, Injectable, signal } from '@angular/core';
import { v7 as newId } from 'uuid';
import { cuedTwoWays, likePlaces, type CuePlace, type TwoWays } from '@vivid-cue/core/cues';
import { measureSign, measuresText } from '@vivid-cue/core/music';
import type { NotePlace } from '@vivid-cue/core/reading';
import { inSpan, measureIndexes, type Span } from '@vivid-cue/core/score';
import {
  dynamicCues,
  phraseShapes,
  quickCues,
  shapeCues,
  type DynamicCue,
  type PhraseShape,
  type QuickCue,
} from '@vivid-cue/core/settle';
import type { CueChange, CueInput, CueView } from '@vivid-cue/contract';
import { forkJoin, tap, type Observable } from 'rxjs';
import { ScoreApi } from '../../data/score-api';
import { SessionStore } from '../../data/session-store';
import { UndoNotice } from '../../ui/undo-notice';
import { LayerStore } from '../findings/layers';
import { ReadingStore } from '../findings/reading-store';
import { cueAsWritten } from '../room/cue-as-written';
import { RoomStore } from '../room/room-store';

/** Like notes that are cued two ways, in words, with the signs there are. */
export interface Disagreement {
  readonly key: string;
  readonly text: string;
  readonly signs: readonly string[];
  readonly cues: readonly CueView[];
}

/** The cues of the open score as they are written, moved and kept the same: with a key, by hand, at like places. */
@Injectable()
export class CueStore {
  private readonly api = inject(ScoreApi);
  private readonly room = inject(RoomStore);
  private readonly reading = inject(ReadingStore);
  private readonly session = inject(SessionStore);
  private readonly notice = inject(UndoNotice);

  private readonly layers = inject(LayerStore);
  /** The note that is looked at. */
  readonly note = this.layers.note;
  /** Whether the next key says what to write. */
  readonly isAsking = signal(false);
  readonly quick = computed(() => quickCues(this.room.room()?.student.instrument ?? ''));
  private readonly cues = computed(() => this.room.room()?.cues ?? []);
  private readonly figures = computed(() => this.reading.result()?.figures ?? []);

  /** Like notes that are cued two ways. */
  readonly disagreements = computed((): readonly Disagreement[] =>
    cuedTwoWays(this.figures(), this.cues()).map((one) => this.worded(one)),
  );

  /** The note before or after the one that is looked at, over bar lines too; the first of a measure where none is. */
  stepNote(step: 1 | -1, fromIndex: number): NotePlace | null {
    const all = this.figures().flatMap((notes, index) => notes.map((_, n) => ({ index, note: n + 1 })));
    const here = this.note();
    const at = here
      ? all.findIndex(({ index, note }) => index === here.index && note === here.note) + step
      : all.findIndex(({ index }) => index >= fromIndex);
    const next = all[at] ?? null;
    if (next) this.note.set(next);
    return next;
  }

  /**
   * Hears a key: W asks what to write, the next key writes it; N goes from note to note.
   * Shape: whether the key meant something; `look` is told of the note that is looked at now
   */
  hears(
    { key, shiftKey }: Pick<KeyboardEvent, 'key' | 'shiftKey'>,
    { selection, look }: { readonly selection: Span | null; readonly look: (index: number) => void },
  ): boolean {
    const small = key.toLowerCase();
    if (this.isAsking()) {
      const cue = this.quick().find((one) => one.key === small);
      if (cue && selection) this.writeQuick(cue, selection.fromIndex);
      // Any other key says that none is wanted.
      if (key !== 'Shift') this.isAsking.set(false);
      return true;
    }
    // With a finding chosen, and no note, the same key turns that into a cue.
    if (small === 'w' && selection && (this.note() || !this.reading.chosen())) {
      this.isAsking.set(true);
      return true;
    }
    if (key === '8') {
      this.layers.areCuesOn.update((isOn) => !isOn);
      return true;
    }
    const next = small === 'n' ? this.stepNote(shiftKey ? -1 : 1, selection?.fromIndex ?? 0) : null;
    if (next) look(next.index);
    return next !== null;
  }

  /** The note or measure that a cue would be written at. */
  whereText(fromIndex: number): string {
    const note = this.note();
    const number = this.numberOf(note?.index ?? fromIndex);
    const measure = measuresText(number, number, this.session.vocabulary());
    return note ? `${measure}, note ${note.note}` : measure;
  }

  /** The wider reading of the printed dynamics, as far as nothing was settled of a level there. */
  readonly widerDynamics = computed((): readonly DynamicCue[] => {
    const advice = this.reading.result()?.reading.dynamicsAdvice ?? [];
    const indexes = measureIndexes(this.room.room()?.score?.digest.measures ?? []);
    const there = new Set(
      this.cues().flatMap(({ kind, fromIndex }) =>
        kind === 'dynamic' || kind === 'articulation' ? [fromIndex] : [],
      ),
    );
    return dynamicCues(advice, (number) => indexes.get(number)).filter(
      ({ measureIndex }) => !there.has(measureIndex),
    );
  });

  /** Shapes to try on a stretch without printed dynamics; none where some are printed. */
  shapesFor(span: Span | null): readonly PhraseShape[] {
    const facts = this.reading.result()?.facts ?? [];
    if (!span || span.endIndex - span.fromIndex < 2 || facts.length === 0) return [];
    const isBare = facts.every(({ index, dynamics }) => !inSpan(span, index) || dynamics.length === 0);
    return isBare ? phraseShapes(span) : [];
  }

  /** Writes cues about levels, to be settled or dropped. */
  propose(cues: readonly DynamicCue[]): void {
    this.add(
      cues.map(({ measureIndex, ...cue }) => {
        const number = this.numberOf(measureIndex);
        const place = { from: number, to: number, note: null };
        return { id: newId(), ...cue, ...place, status: 'proposed', findingKey: null, author: 'reading' };
      }),
    );
  }

  proposeShape(shape: PhraseShape, span: Span): void {
    this.propose(shapeCues(shape, span));
  }

  /** Where a cue would be copied: like places that have no cue of its kind. */
  likeOf({ kind, ...place }: CueView): readonly CuePlace[] {
    return likePlaces(this.figures(), place).filter(
      ({ fromIndex, note }) =>
        !this.cues().some((one) => one.kind === kind && one.fromIndex === fromIndex && one.note === note),
    );
  }

  /** What a copy would be called: "at mm. 33, 36 too". */
  likeText(places: readonly CuePlace[]): string {
    const numbers = [...new Set(places.map(({ fromIndex }) => this.numberOf(fromIndex)))];
    const shown = numbers.slice(0, 4).join(', ');
    const sign = measureSign(numbers.length, this.session.vocabulary());
    return `${sign} ${shown}${numbers.length > 4 ? ` and ${numbers.length - 4} more` : ''}`;
  }

  /** Writes what a key stands for at the note or measure that is looked at. */
  writeQuick({ kind, sign, text }: QuickCue, fromIndex: number): void {
    const note = this.note();
    const number = this.numberOf(note?.index ?? fromIndex);
    const cue = { kind, sign, text, from: number, to: number, note: note?.note ?? null };
    this.isAsking.set(false);
    // One cue of a kind stands at a note: another sign takes the place of the one before.
    const there = this.cues().find(
      (one) => one.kind === kind && one.from === number && one.note === cue.note && cue.note !== null,
    );
    if (there) this.change([there], () => ({ sign, text }), `“${text}” written in`);
    else this.add([{ id: newId(), ...cue, findingKey: null }]);
  }

  copyTo(cue: CueView, places: readonly CuePlace[]): void {
    const { kind, sign, text, status, reason, alternatives, author, beat } = cue;
    this.add(
      places.map(({ fromIndex, endIndex, note }) => ({
        ...{ id: newId(), kind, sign, text, status, reason, author, note, beat },
        ...{ alternatives: [...alternatives], findingKey: null },
        ...{ from: this.numberOf(fromIndex), to: this.numberOf(endIndex - 1) },
      })),
    );
  }

  /** Puts a cue at another note. */
  move(id: string, { index, note }: NotePlace): void {
    const cue = this.cues().find((one) => one.id === id);
    if (!cue || (cue.fromIndex === index && cue.note === note)) return;
    const number = this.numberOf(index);
    this.change(
      [cue],
      () => ({ from: number, to: number, note, beat: null }),
      `The cue is at ${number}, note ${note} now`,
    );
  }

  /** Puts a cue at another measure, as long as it is; what it said of a note there is not known. */
  moveToMeasure(id: string, index: number): void {
    const cue = this.cues().find((one) => one.id === id);
    const length = cue ? cue.endIndex - cue.fromIndex : 0;
    const [from, to] = [this.numberOf(index), this.numberOf(index + length - 1)];
    if (!cue || cue.fromIndex === index || from === '' || to === '') return;
    this.change([cue], () => ({ from, to, note: null }), `The cue is at ${from} now`);
  }

  /** Makes like notes say one thing. */
  agree({ cues }: Disagreement, sign: string): void {
    const model = cues.find((one) => one.sign === sign);
    if (!model) return;
    const others = cues.filter((one) => one.sign !== sign);
    const text = `${others.length === 1 ? 'One cue says' : `${others.length} cues say`} ${sign} now`;
    this.change(others, () => ({ sign, text: model.text }), text);
  }

  /** Writes new cues with Undo. Shape: `say` is what was done */
  write(cues: readonly CueInput[], say: (written: readonly CueView[]) => string): void {
    this.room.addCues(cues, (written) =>
      this.notice.offer({
        done: say(written),
        undone: 'the music is as it was',
        undo: () => this.room.send(this.api.removeCues(written.map(({ id }) => id))),
        back: () => written.forEach(({ id }) => this.room.dropCue(id)),
      }),
    );
  }

  private add(cues: readonly CueInput[]): void {
    this.write(
      cues,
      ([first, ...more]) =>
        `${more.length === 0 ? `“${first?.text ?? ''}”` : `${more.length + 1} cues`} written in`,
    );
  }

  private change(
    cues: readonly CueView[],
    changeOf: (cue: CueView) => Partial<CueChange>,
    done: string,
  ): void {
    const sent = (
      list: readonly CueView[],
      of: (cue: CueView) => Partial<CueChange>,
    ): Observable<CueView[]> =>
      forkJoin(list.map((cue) => this.api.changeCue(cue, { ...cueAsWritten(cue), ...of(cue) })));
    const show = (list: readonly CueView[]): void => list.forEach((cue) => this.room.replaceCue(cue));
    this.room.run(sent(cues, changeOf), (changed) => {
      show(changed);
      this.notice.offer({
        done,
        undone: 'it is as it was',
        undo: () =>
          this.room
            .send(sent(changed, (now) => cueAsWritten(cues.find(({ id }) => id === now.id) ?? now)))
            .pipe(tap(show)),
        back: () => undefined,
      });
    });
  }

  private worded({ kind, cues }: TwoWays<CueView>): Disagreement {
    const signs = [...new Set(cues.map(({ sign }) => sign))];
    const ways = signs.map((sign) => {
      const at = cues.filter((one) => one.sign === sign).map(({ from }) => from);
      return `${sign} at ${measureSign(at.length, this.session.vocabulary())} ${at.join(', ')}`;
    });
    return {
      key: cues.map(({ id }) => id).join(),
      text: `The same notes, ${kind} two ways: ${ways.join('; ')}.`,
      ...{ signs, cues },
    };
  }

  private numberOf(index: number): string {
    return this.room.room()?.score?.digest.measures[index]?.number ?? '';
  }
}
