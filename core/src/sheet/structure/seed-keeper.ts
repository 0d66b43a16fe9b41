import { instrumentNames } from '../heading.js';
import { kindOf, labelKey } from '../labels.js';
import type { Division, PartKind } from '../model.js';
import { WHOLE_SCOPE, type PartScope } from '../scope.js';
import { slice, type Piece } from '../text/piece.js';
import type { ItemHead } from './items.js';
import type { KeyedHead } from './keyed-head.js';
import {
  STRENGTH,
  type Evidence,
  type OpenChoice,
  type Place,
  type Section,
  type Seed,
  type Statement,
} from './place.js';
import { isWorkLine } from './prose.js';
import { scaleClauses, type ScalePart } from './scale-clauses.js';

/** Players that a set work is for, in front of it. */
export const GROUP_LEAD =
  /^(?<who>strings|winds|woodwinds?|brass|percussion|voices|keyboards?|guitars?|any\s+(?:ensemble|instrument))\s*:\s*/iu;

/** A section of which nothing is said. */
export const NO_SECTION: Omit<Section, 'id'> = Object.freeze({
  kind: null,
  label: '',
  isPlural: false,
  mode: null,
  list: null,
  topic: null,
});

/** A part while the document is gone through: its kind may be told later than its name. */
export type OpenSeed = Seed & { kind: PartKind };

/** Parts with what is said of them, as a document is gone through from top to bottom. */
export abstract class SeedKeeper {
  protected readonly seeds: OpenSeed[] = [];
  protected readonly statements: Statement[] = [];
  protected readonly choices: OpenChoice[] = [];
  protected readonly instruments: string[] = [];
  protected readonly divisions: Division[] = [];
  protected readonly keyed: KeyedHead = { body: null, year: null };
  /** Names of items that were split into several parts. */
  protected readonly items = new Map<string, string>();
  protected scope: PartScope = WHOLE_SCOPE;
  protected section: Section | null = null;
  protected seed: OpenSeed | null = null;
  protected seedIndent = 0;
  /** Where the words that are gone through begin. */
  protected at = 0;
  protected sectionSeed: OpenSeed | null = null;
  protected openChoice: { readonly choice: OpenChoice; readonly indent: number } | null = null;
  private sections = 0;
  /** Parts by the names that they are known by. */
  private readonly byKey = new Map<string, OpenSeed[]>();

  constructor(protected readonly newId: () => string) {}

  protected get place(): Place {
    return { scope: this.scope, section: this.section };
  }

  /** A sentence that belongs to no one part, or stands among the lines of one. */
  protected state(piece: Piece, seed: Seed | null = null, asked: Piece | null = null): void {
    this.statements.push({ piece, place: this.place, seed, asked });
  }

  protected addInstruments(names: readonly string[]): void {
    for (const name of names)
      if (!this.instruments.some((other) => other.toLowerCase() === name.toLowerCase()))
        this.instruments.push(name);
  }

  protected newSection(section: Omit<Section, 'id'>): Section {
    this.sections += 1;
    return { ...section, id: this.sections };
  }

  /** A heading that turns out to stand over several parts is no part. */
  protected retireSectionSeed(): void {
    const seed = this.sectionSeed;
    if (!seed || seed.kind !== this.section?.kind) return;
    this.sectionSeed = null;
    const at = this.seeds.indexOf(seed);
    if (at >= 0) this.seeds.splice(at, 1);
    const key = labelKey(seed.label);
    this.byKey.set(
      key,
      (this.byKey.get(key) ?? []).filter((other) => other !== seed),
    );
    for (const choice of this.choices) if (choice.of.at(-1) === seed.id) choice.of.pop();
    for (const { piece } of seed.evidence) this.state(piece);
  }

  protected known(label: string): OpenSeed | null {
    const own = this.byKey.get(labelKey(label)) ?? [];
    const scope = JSON.stringify(this.scope);
    const here = own.find((seed) => JSON.stringify(seed.place.scope) === scope);
    return here ?? (own.length === 1 && scope === JSON.stringify(WHOLE_SCOPE) ? (own[0] ?? null) : null);
  }

  protected openSeed(
    head: ItemHead,
    {
      scope,
      indent,
      group,
    }: { readonly scope: PartScope; readonly indent: number; readonly group: string | null },
  ): OpenSeed {
    const seed = {
      id: this.newId(),
      label: head.label,
      kind: head.kind ?? this.section?.kind ?? 'other',
      place: { scope, section: this.section },
      at: this.at,
      evidence: [] as Evidence[],
      group,
    };
    this.seeds.push(seed);
    const key = labelKey(seed.label);
    this.byKey.set(key, [...(this.byKey.get(key) ?? []), seed]);
    this.seed = seed;
    this.seedIndent = indent;
    if (this.openChoice) this.openChoice.choice.of.push(seed.id);
    return seed;
  }

  /** "(Senior only)", "Strings: …": for whom an item is, where it says so first. */
  protected scopeSaid(rest: Piece): PartScope {
    const only = /^[[(](?<who>[^\])]{3,40}?)s?\s+only[\])]/iu.exec(rest.plain)?.groups?.who ?? null;
    const lead = GROUP_LEAD.exec(rest.plain)?.groups?.who ?? null;
    const group = lead === null || /^any\s/iu.test(lead) ? null : lead;
    const who = only ?? group;
    if (who === null) return this.scope;
    const names = instrumentNames(who);
    if (names.length > 0 || group !== null)
      return { ...this.scope, instruments: names.length > 0 ? names : [who] };
    return { ...this.scope, divisions: [who] };
  }

  /** What is said of the part at hand; of scales, every key is a part of its own. */
  protected say(piece: Piece, { isHead }: { readonly isHead: boolean }): void {
    const { seed } = this;
    if (!seed || piece.text === '') return;
    const told = seed.evidence.every(({ role }) => role === 'label') ? kindOf(piece.plain) : null;
    if (seed.kind === 'other') seed.kind = told ?? (isWorkLine(piece.plain) ? 'solo' : 'other');
    // "PART B: BALLAD (30 points)": what stands in capitals names the part, not its music.
    const loud = /^(?<name>[\p{Lu}\s-]{4,40}?)(?=\s*[[(]|$)/u.exec(piece.text)?.groups?.name ?? '';
    const own = { strength: STRENGTH.own, isHead: false };
    if (isHead && loud !== '' && /^(?:part|item|requirement|section)\b/iu.test(seed.label)) {
      seed.evidence.push({ ...own, piece: slice(piece, 0, loud.length), role: 'label' });
      this.say(slice(piece, loud.length), { isHead: false });
    } else if (seed.kind === 'scale') this.addScales(seed, piece);
    else seed.evidence.push({ ...own, piece, role: 'text', isHead });
  }

  protected addScales(seed: Seed, piece: Piece): void {
    const split = scaleClauses(piece, {
      mode: this.section?.mode ?? null,
      label: seed.label,
      isOne: seed === this.sectionSeed || !/s$/iu.test(seed.label),
    });
    const isSplit =
      split.parts.length > 1 ||
      (split.parts.length === 1 && seed.evidence.some(({ role }) => role === 'key'));
    for (const shared of split.shared)
      if (split.parts.length > 0 || seed.group === null)
        seed.evidence.push({
          piece: shared,
          role: 'text',
          strength: split.parts.length > 1 ? STRENGTH.group : STRENGTH.own,
          isHead: false,
        });
    if (!isSplit) {
      const [one] = split.parts;
      if (one) seed.evidence.push(...evidenceOf(one));
      return;
    }
    for (const part of split.parts) {
      this.items.set(seed.id, seed.label);
      const own = this.openSeed(
        { label: part.label, kind: part.kind, after: 0, isNumbered: true },
        { scope: seed.place.scope, indent: this.seedIndent, group: seed.id },
      );
      own.evidence.push(...evidenceOf(part));
    }
    this.offer(piece, split.parts.length);
    this.seed = seed;
  }

  /** A line under the heading of scales: its keys are parts, the rest holds for all of them. */
  protected addScaleLine(piece: Piece, indent: number, bullet: string | null): void {
    const split = scaleClauses(piece, {
      mode: this.section?.mode ?? null,
      label: this.section?.label ?? 'Scale',
      isOne: bullet !== null,
    });
    if (split.parts.length === 0) {
      const holds = this.seed && bullet === null ? this.seed : null;
      this.state(piece, holds);
      return;
    }
    const group = this.newId();
    for (const part of split.parts) {
      const seed = this.openSeed(
        { label: part.label, kind: part.kind, after: 0, isNumbered: true },
        { scope: this.scope, indent, group },
      );
      seed.evidence.push(...evidenceOf(part));
      for (const text of split.shared)
        seed.evidence.push({ piece: text, role: 'text', strength: STRENGTH.group, isHead: false });
    }
    this.offer(piece, split.parts.length);
    this.seed = null;
  }

  /** "… or another scale of your choice": the parts that were opened last stand against each other. */
  protected offer(piece: Piece, count: number): void {
    if (count < 2 || !/\bor\s+(?:another|one|any)\b/iu.test(piece.plain)) return;
    this.choices.push({
      rule: 'oneOf',
      n: 1,
      of: this.seeds.slice(-count).map(({ id }) => id),
      isApart: true,
    });
  }
}

function evidenceOf({ name, key, title, pieces }: ScalePart): Evidence[] {
  const own = { strength: STRENGTH.own, isHead: false };
  return [
    ...(key === null ? [] : [{ ...own, piece: name, role: 'key' as const, value: key }]),
    ...(title === null ? [] : [{ ...own, piece: name, role: 'title' as const, value: title }]),
    ...pieces.map((piece) => ({ ...own, piece, role: 'text' as const })),
  ];
}
