import { computed, inject, Injectable, signal } from '@angular/core';
import { v7 as newId } from 'uuid';
import {
  knownName,
  withCorrection,
  withKnownParts,
  withoutCorrection,
  type Correction,
  type KnownPart,
  type SheetReading,
} from '@vivid-cue/core/sheet';
import { sheetFromStructure, type SheetChange, type ToldOfText } from '@vivid-cue/contract';
import { SessionStore } from '../data/session-store';
import { SheetReaderClient } from '../data/sheet-reader';
import { asRead, mergeReading, type DeskContent } from './merge-reading';
import { sheetFields, type SheetFields } from './sheet-form';

const NOTHING_TOLD: ToldOfText = { corrections: [], parts: [] };

/** The reading that a desk's fields came from, what a person said of its text, and how both are read again. */
@Injectable()
export class DeskReading {
  private readonly reader = inject(SheetReaderClient);
  private readonly session = inject(SessionStore);
  private base: DeskContent | null = null;
  /** Readings follow each other: an older answer never replaces a newer one. */
  private asked = 0;

  /** The text as it was read last. Shape: null where there is none */
  readonly reading = signal<SheetReading | null>(null);
  /** What a person said of the text. */
  readonly told = signal<ToldOfText>(NOTHING_TOLD);
  /** Why the text could not be read, in a sentence. */
  readonly failure = signal<string | null>(null);
  /** Corrections whose words the text no longer has. */
  readonly lost = computed(() => this.reading()?.lost ?? []);

  warmUp(): void {
    this.reader.warmUp();
  }

  /** Forgets the text. Shape: `empty` is what an empty desk has, which a text then takes the place of */
  clear(empty: DeskContent | null = null): void {
    this.base = empty;
    this.asked += 1;
    this.reading.set(null);
    this.told.set(NOTHING_TOLD);
    this.failure.set(null);
  }

  /**
   * Reads the text of a sheet that is filled already: its words are lit, its fields stay.
   * Shape:  parts that the text begins by the same name are known as its own where nothing was told yet
   */
  async underline(content: DeskContent): Promise<void> {
    const told = content.rest.told ?? NOTHING_TOLD;
    this.told.set(told);
    const read = await this.read(content.rest.publishedText ?? '', told, content);
    if (read) this.base = read;
  }

  /**
   * Reads a text, or the same one again, into what stands on the desk.
   * Shape:  what was typed stays; null where the text could not be read, and then everything stays
   */
  async into(text: string, mine: DeskContent): Promise<DeskContent | null> {
    const base = this.base ?? { fields: NOTHING_READ, rest: {} };
    const next = await this.read(text, this.told(), mine);
    if (!next) return null;
    this.base = next;
    return mergeReading(mine, base, next);
  }

  /**
   * Reads the text again with something that a person said of it, or as it reads by itself in that place.
   * Shape:  as of `into`
   */
  async tell(
    correction: Correction,
    { mine, isTakenBack }: { readonly mine: DeskContent; readonly isTakenBack: boolean },
  ): Promise<DeskContent | null> {
    const change = isTakenBack ? withoutCorrection : withCorrection;
    this.told.update((told) => ({ ...told, corrections: change(told.corrections, correction) }));
    return this.again(correction, mine);
  }

  /** Forgets corrections whose words the text no longer has. */
  dropLost(): void {
    const gone = new Set(this.lost().map((one) => JSON.stringify(one)));
    this.told.update((told) => ({
      ...told,
      corrections: told.corrections.filter((one) => !gone.has(JSON.stringify(one))),
    }));
    this.reading.update((reading) => reading && { ...reading, lost: [] });
  }

  private async again(correction: Correction, mine: DeskContent): Promise<DeskContent | null> {
    const text = this.reading()?.text;
    if (text === undefined) return null;
    const id = correction.kind === 'words' ? this.idOf(correction.part) : null;
    const own =
      id !== null && correction.kind === 'words' && this.base
        ? asRead(mine, this.base, { id, field: correction.field })
        : mine;
    return this.into(text, own);
  }

  private idOf(at: KnownPart['at']): string | null {
    return this.told().parts.find((part) => JSON.stringify(part.at) === JSON.stringify(at))?.id ?? null;
  }

  private async read(text: string, told: ToldOfText, mine: DeskContent): Promise<DeskContent | null> {
    this.asked += 1;
    const own = this.asked;
    try {
      const raw = await this.reader.sheet(text, told.corrections);
      if (own !== this.asked) return null;
      const known = told.parts.length > 0 ? told.parts : knownByName(mine.fields);
      const { reading, known: parts } = withKnownParts(raw, known);
      this.failure.set(null);
      this.reading.set(reading);
      this.told.set({ corrections: told.corrections, parts: withOlder(parts, told.parts) });
      const change = sheetFromStructure(reading.sheet, { zone: this.session.zone(), newId });
      return this.contentOf(
        { ...change, deadlines: withKnownDates(change.deadlines, mine.fields.deadlines) },
        reading.text,
      );
    } catch (error) {
      if (own === this.asked)
        this.failure.set(error instanceof Error ? error.message : 'The text could not be read.');
      return null;
    }
  }

  private contentOf(change: SheetChange, publishedText: string): DeskContent {
    const { choices, notes, questions } = change;
    return {
      fields: sheetFields(change, this.session.zone()),
      rest: {
        choices: choices ?? [],
        notes: notes ?? [],
        questions: questions ?? [],
        publishedText,
        told: this.told(),
      },
    };
  }
}

/** A desk on which nothing was read yet has nothing of a reading. */
const NOTHING_READ: SheetFields = {
  body: '',
  year: '',
  division: '',
  instrument: '',
  deadlines: [],
  parts: [],
};

/** Parts of a saved sheet by their names. */
function knownByName({ parts }: SheetFields): KnownPart[] {
  return parts.map(({ id, stood }) => ({ id, at: null, name: knownName(stood) }));
}

/** Where parts begin now, and where those began that this reading does not have: they may come back. */
function withOlder(now: readonly KnownPart[], before: readonly KnownPart[]): KnownPart[] {
  const own = new Set(now.map(({ id }) => id));
  const gone = before.filter(({ id }) => !own.has(id));
  return [...now, ...gone].slice(0, 300);
}

type Dates = SheetChange['deadlines'];

/** Dates of the same printed words keep the identifiers that they had. */
function withKnownDates(next: Dates, known: SheetFields['deadlines']): Dates {
  const free = known.filter(({ text }) => text !== '');
  return next.map((deadline) => {
    const n = free.findIndex(({ text, kind }) => text === (deadline.text ?? '') && kind === deadline.kind);
    const [same] = n < 0 ? [] : free.splice(n, 1);
    return same ? { ...deadline, id: same.id } : deadline;
  });
}
