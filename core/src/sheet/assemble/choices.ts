import { groupBy } from '../../base/index.js';
import type { Claims } from '../claims/claims.js';
import { labelKey } from '../labels.js';
import type { Choice, SheetPart } from '../model.js';
import type { Outline } from '../structure/place.js';
import type { AssembledPart } from './assemble.js';

type Ref = string | readonly string[];

/**
 * The rules of choice of a sheet: those it states, those its lists and options are, and what is left for everybody.
 * Shape:  `of` names parts by their identifiers
 */
export function choicesOf(
  assembled: readonly AssembledPart[],
  claims: Claims,
  { choices: open, choosesLists, items }: Pick<Outline, 'choices' | 'choosesLists' | 'items'>,
): Choice[] {
  const maker = new ChoiceMaker(assembled, items);
  if (choosesLists) maker.addLists();
  for (const { rule, n, of, isApart } of open)
    maker.add({ rule, n, of: isApart === true ? of : bundled(of, assembled) });
  for (const { read } of claims.choices) {
    if (read.choice.rule === 'oneFromEach') maker.addLists();
    else if (read.choice.rule !== 'all') maker.addNamed(read.choice);
  }
  maker.addOptions();
  maker.addRest();
  return maker.choices;
}

/** Parts that one item was split into are taken together. */
function bundled(ids: readonly string[], assembled: readonly AssembledPart[]): readonly Ref[] {
  const groups = groupBy(ids, (id) => assembled.find(({ seed }) => seed.id === id)?.seed.group ?? id);
  return [...groups.values()].map((group) => (group.length === 1 ? (group[0] ?? '') : group));
}

class ChoiceMaker {
  readonly choices: Choice[] = [];
  private readonly chosen = new Set<string>();

  constructor(
    private readonly assembled: readonly AssembledPart[],
    private readonly items: ReadonlyMap<string, string>,
  ) {}

  add(choice: Choice): void {
    const of = choice.of.filter((one) => (typeof one === 'string' ? this.has(one) : one.length > 0));
    if (of.length === 0) return;
    this.choices.push({ ...choice, of });
    for (const id of of.flat()) this.chosen.add(id);
  }

  private has(id: string): boolean {
    return this.assembled.some(({ part }) => part.id === id);
  }

  /** One from each of the lists: those with a letter, or groups. */
  addLists(): void {
    const lists = groupBy(
      this.assembled.filter(({ seed }) => seed.place.section?.list != null),
      ({ seed }) => seed.place.section?.list ?? '',
    );
    if (lists.size < 2 || this.choices.some(({ rule }) => rule === 'oneFromEach')) return;
    this.add({
      rule: 'oneFromEach',
      n: lists.size,
      of: [...lists.values()].map((own) => own.map(({ part }) => part.id)),
    });
  }

  /** Parts that a sentence names by their labels; an option stands for all of its parts. */
  addNamed(choice: Choice): void {
    const of = choice.of.flat().flatMap((name): Ref[] => {
      const ref = this.refOf(name);
      return ref === null ? [] : [ref];
    });
    if (of.length < 2) return;
    if (this.choices.some((known) => JSON.stringify(known.of) === JSON.stringify(of))) return;
    this.add({ ...choice, of });
  }

  private refOf(name: string): Ref | null {
    const key = labelKey(name);
    const byOption = this.assembled.filter(({ seed }) =>
      seed.place.scope.options.some((option) => labelKey(option) === key),
    );
    if (byOption.length > 0) return byOption.map(({ part }) => part.id);
    const bySplit = this.assembled.filter(
      ({ seed }) => seed.group !== null && labelKey(this.items.get(seed.group) ?? '') === key,
    );
    if (bySplit.length > 0) return bySplit.map(({ part }) => part.id);
    const byInstrument = this.assembled.filter(({ seed }) =>
      seed.place.scope.instruments.some((one) => labelKey(one) === key),
    );
    const own = this.assembled.filter(
      ({ seed, part }) => labelKey(seed.label) === key || labelKey(part.label) === key,
    );
    if (own.length > 0) return own.length === 1 ? (own[0]?.part.id ?? null) : own.map(({ part }) => part.id);
    return byInstrument.length > 0 ? byInstrument.map(({ part }) => part.id) : null;
  }

  /** Headings of options offer all of their parts against each other. */
  addOptions(): void {
    const options = groupBy(
      this.assembled.filter(
        ({ seed, part }) => seed.place.scope.options.length > 0 && !this.chosen.has(part.id),
      ),
      ({ seed }) => seed.place.scope.options[0] ?? '',
    );
    if (options.size < 2) return;
    this.add({ rule: 'oneOf', n: 1, of: [...options.values()].map((own) => own.map(({ part }) => part.id)) });
  }

  /** What nobody may leave out: for each instrument and division, with what is for everybody. */
  addRest(): void {
    const rest = this.assembled
      .filter((one) => !this.chosen.has(one.part.id) && !isConditional(one))
      .map(({ part }) => part);
    const whole = rest.filter((part) => scopeKey(part) === '[[],[]]');
    const scoped = groupBy(
      rest.filter((part) => scopeKey(part) !== '[[],[]]'),
      scopeKey,
    );
    if (scoped.size === 0 && whole.length > 0) this.all(whole);
    for (const own of scoped.values()) this.all([...own, ...whole]);
  }

  private all(parts: readonly SheetPart[]): void {
    this.choices.push({ rule: 'all', n: null, of: parts.map(({ id }) => id) });
  }
}

/** "Only if you are trying for the senior orchestra", "heard at the final round only": not for everybody. */
function isConditional({ seed }: AssembledPart): boolean {
  return (
    seed.kind !== 'solo' &&
    seed.evidence.some(({ piece }) => /^only\b|\bonly\.?$|\boptional\b/iu.test(piece.plain)) &&
    /sight|aural|improv/u.test(seed.kind)
  );
}

function scopeKey({ scope }: SheetPart): string {
  return JSON.stringify([scope.instruments, scope.divisions]);
}
