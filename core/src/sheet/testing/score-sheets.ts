import { readdirSync, readFileSync } from 'node:fs';
import { exchangedSheet, type ExchangedSheet } from '../identity.js';
import { readSheet } from '../read-sheet.js';

const FOLDER = new URL('../../../testdata/sheets/', import.meta.url);

/** Sheets that older rules were written with or kept aside from, and those of layouts that none was written for. */
export type SheetSet = 'tuned' | 'aside' | 'fresh' | 'last' | 'layouts' | 'unseen';

/** What is right, false and missed of one field. Units: values */
export interface FieldScore {
  right: number;
  false: number;
  missed: number;
}

/** How well a set of sheets is read. Shape: per field; `invented` values that no text states; every slip in words */
export interface SheetScore {
  readonly fields: Readonly<Record<string, FieldScore>>;
  readonly invented: number;
  readonly misses: readonly string[];
}

type Json = Readonly<Record<string, unknown>>;
type Part = Json & { readonly label: string; readonly kind: string };

interface Truth {
  readonly parts: readonly Part[];
  readonly accept: ReadonlyMap<string, readonly unknown[]>;
  readonly must: ReadonlySet<string>;
  readonly may: ReadonlySet<string>;
  readonly whole: Json;
}

/** The names of the sheets of a set. */
export function sheetNames(set: SheetSet): string[] {
  return readdirSync(new URL(`${set}/`, FOLDER))
    .filter((name) => name.endsWith('.txt'))
    .map((name) => name.slice(0, -4))
    .sort();
}

/** The text of a sheet of the tests. */
export function sheetText(set: SheetSet, name: string): string {
  return readFileSync(new URL(`${set}/${name}.txt`, FOLDER), 'utf8');
}

/** F1 over all fields: what is right against what is false or missed. Units: 0 to 1 */
export function f1Of({ fields }: SheetScore): number {
  const sum = (pick: keyof FieldScore): number =>
    Object.values(fields).reduce((all, one) => all + one[pick], 0);
  const right = sum('right');
  return (2 * right) / (2 * right + sum('false') + sum('missed'));
}

/**
 * Reads a set of sheets and counts every value against what its author wrote down before: a missed part costs every
 * value that it states, a value that the text does not state costs double, and so does a guess at what is left open.
 * Units:  values
 */
export function scoreSheets(set: SheetSet): SheetScore {
  const scorer = new Scorer();
  for (const name of sheetNames(set)) {
    const truth = truthOf(JSON.parse(readFileSync(new URL(`${set}/${name}.json`, FOLDER), 'utf8')) as Json);
    scorer.compare(name, truth, exchangedSheet(readSheet(sheetText(set, name)).sheet));
  }
  return scorer;
}

function truthOf(whole: Json): Truth {
  const asked = (list: unknown, severity: string | null): Set<string> =>
    new Set(
      ((list ?? []) as { about: string; severity?: string }[])
        .filter((one) => severity === null || one.severity === severity)
        .map(({ about }) => questionKey(about)),
    );
  const isNew = whole.ambiguities !== undefined;
  return {
    parts: whole.parts as Part[],
    accept: new Map(
      ((whole.accept ?? []) as { path: string; values: unknown[] }[]).map(({ path, values }) => [
        path,
        values,
      ]),
    ),
    must: isNew ? asked(whole.ambiguities, 'must') : asked(whole.questions, null),
    may: isNew ? asked(whole.ambiguities, 'may') : new Set(),
    whole,
  };
}

/** A question by its part and the field it is about. */
function questionKey(about: string): string {
  const [target = '', field = ''] = about.split(/\/(?=[^/]*$)/u);
  return `${canon(target)}/${/^[^.[]*/u.exec(field)?.[0] ?? ''}`;
}

const FIELDS = [
  ...[
    'kind',
    'title',
    'measures',
    'key',
    'octaves',
    'noteValue',
    'range.low',
    'range.high',
    'articulation',
    'memory',
  ],
  ...['repeats', 'maxSeconds', 'minSeconds', 'accompaniment', 'points', 'appliesTo'],
  ...['source.book', 'source.number', 'source.page', 'source.edition', 'source.composer'],
  ...['tempo.beatUnit', 'tempo.bpmMin', 'tempo.bpmMax', 'tempo.bound', 'tempo.words'],
];
const LOOSE: ReadonlySet<string> = new Set([
  ...['title', 'source.book', 'source.edition', 'source.composer', 'articulation', 'tempo.words', 'body'],
  ...['range.low', 'range.high'],
]);

function at(value: unknown, path: string): unknown {
  return (
    path.split('.').reduce<unknown>((inner, key) => (inner as Json | null | undefined)?.[key], value) ?? null
  );
}

function isUnset(path: string, value: unknown): boolean {
  return (
    value === null ||
    value === undefined ||
    value === '' ||
    (Array.isArray(value) && value.length === 0) ||
    value === 'unstated' ||
    (path === 'tempo.bound' && value === 'none')
  );
}

function canon(value: unknown): string {
  if (Array.isArray(value))
    return value
      .map((one) => canon(one))
      .sort()
      .join('|');
  return String(value)
    .normalize('NFKC')
    .replace(/♭/gu, 'b')
    .replace(/♯/gu, '#')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}#+/:.-]+/gu, ' ')
    .trim();
}

/** How many words two texts share. Units: 0 to 1 */
function likeness(a: unknown, b: unknown): number {
  const words = (text: unknown): Set<string> =>
    new Set(canon(String(text).replace(/-/gu, ' ')).match(/[\p{L}\p{N}#]+/gu) ?? []);
  const [one, other] = [words(a), words(b)];
  if (one.size === 0 || other.size === 0) return 0;
  return (2 * [...one].filter((word) => other.has(word)).length) / (one.size + other.size);
}

function isSame(path: string, wanted: unknown, came: unknown): boolean {
  const ends = (list: unknown): string =>
    ((list ?? []) as Json[]).map(({ from, to }) => `${canon(from)}-${canon(to)}`).join(' ');
  if (path === 'measures') return ends(wanted) === ends(came);
  if (path === 'appliesTo' || path === 'instruments') {
    const [names, own] = [wanted as string[], came as string[]];
    return names.length === own.length && names.every((name) => own.some((one) => likeness(name, one) > 0.5));
  }
  if (LOOSE.has(path)) return likeness(wanted, came) >= 0.6 || canon(wanted) === canon(came);
  return canon(wanted) === canon(came);
}

class Scorer implements SheetScore {
  readonly fields: Record<string, FieldScore> = {};
  readonly misses: string[] = [];
  invented = 0;

  private add(field: string, change: Partial<FieldScore>, why?: string): void {
    const own = (this.fields[field] ??= { right: 0, false: 0, missed: 0 });
    own.right += change.right ?? 0;
    own.false += change.false ?? 0;
    own.missed += change.missed ?? 0;
    if (why !== undefined) this.misses.push(why);
  }

  compare(name: string, truth: Truth, sheet: ExchangedSheet): void {
    const flags = new Set(sheet.questions.map(({ about }) => about));
    const pairs = aligned(truth.parts, sheet.parts as unknown as readonly Part[]);
    const asked = new Set([...flags].map((about) => this.renamed(about, pairs)));
    for (const about of truth.must)
      this.add(
        'questions',
        asked.has(about) ? { right: 1 } : { missed: 1 },
        asked.has(about) ? undefined : `${name}: not asked ${about}`,
      );
    for (const about of asked)
      if (!truth.must.has(about) && !truth.may.has(about))
        this.add('questions', { false: 1 }, `${name}: needless question ${about}`);
    for (const field of ['body', 'year', 'instruments'])
      this.leaf(field, {
        name,
        path: field,
        wanted: truth.whole[field],
        came: (sheet as unknown as Json)[field],
        truth,
        asked,
        about: `${field}/`,
      });
    this.compareDates(name, { truth, sheet, asked });
    this.compareParts(name, { truth, sheet, pairs, asked });
    this.compareChoices(name, { truth, sheet, pairs });
  }

  private renamed(about: string, pairs: ReadonlyMap<Part, Part>): string {
    const [target = '', field = ''] = about.split(/\/(?=[^/]*$)/u);
    const part = [...pairs].find(([, own]) => own.label === target)?.[0];
    return questionKey(`${part?.label ?? target}/${field}`);
  }

  private leaf(
    field: string,
    {
      name,
      path,
      wanted,
      came,
      truth,
      asked,
      about,
    }: {
      readonly name: string;
      readonly path: string;
      readonly wanted: unknown;
      readonly came: unknown;
      readonly truth: Truth;
      readonly asked: ReadonlySet<string>;
      readonly about: string;
    },
  ): void {
    const last = path.replace(/^parts\[[^\]]*\]\./u, '').replace(/^deadlines\[[^\]]*\]\./u, '');
    const others = truth.accept.get(path) ?? [];
    const isOpen = truth.must.has(questionKey(about));
    if (isOpen && isUnset(last, came)) return;
    if (isOpen && !asked.has(questionKey(about)))
      return this.add(field, { false: 2 }, `${name}: ${path} guessed ${JSON.stringify(came)}`);
    if (isUnset(last, came)) {
      const isRight = isUnset(last, wanted) || others.some((one) => isUnset(last, one));
      if (!isRight) this.add(field, { missed: 1 }, `${name}: ${path} missed ${JSON.stringify(wanted)}`);
      return;
    }
    if ([wanted, ...others].some((one) => !isUnset(last, one) && isSame(last, one, came)))
      return this.add(field, { right: 1 });
    if (isUnset(last, wanted)) {
      this.invented += 1;
      return this.add(field, { false: 2 }, `${name}: ${path} invented ${JSON.stringify(came)}`);
    }
    this.add(
      field,
      { false: 1, missed: 1 },
      `${name}: ${path} ${JSON.stringify(came)} instead of ${JSON.stringify(wanted)}`,
    );
  }

  private compareDates(
    name: string,
    {
      truth,
      sheet,
      asked,
    }: { readonly truth: Truth; readonly sheet: ExchangedSheet; readonly asked: ReadonlySet<string> },
  ): void {
    const left = [...sheet.deadlines] as unknown as Json[];
    for (const wanted of (truth.whole.deadlines ?? []) as Json[]) {
      const at2 = left.findIndex(({ what, date }) => what === wanted.what && (date === wanted.date || true));
      const [own] = at2 < 0 ? [] : left.splice(at2, 1);
      for (const key of ['date', 'time', 'zone']) {
        const path = `deadlines[${String(wanted.what)}].${key}`;
        this.leaf(`deadlines.${key}`, {
          name,
          path,
          wanted: wanted[key] ?? null,
          came: own?.[key] ?? null,
          truth,
          asked,
          about: `deadlines[${String(wanted.what)}]/${key}`,
        });
      }
    }
    for (const extra of left) {
      const count = ['date', 'time', 'zone'].filter((key) => extra[key] !== null).length;
      if (count > 0)
        this.add('deadlines.date', { false: 2 * count }, `${name}: invented a date, ${String(extra.text)}`);
    }
  }

  private compareParts(
    name: string,
    {
      truth,
      sheet,
      pairs,
      asked,
    }: {
      readonly truth: Truth;
      readonly sheet: ExchangedSheet;
      readonly pairs: ReadonlyMap<Part, Part>;
      readonly asked: ReadonlySet<string>;
    },
  ): void {
    for (const wanted of truth.parts) {
      const own = pairs.get(wanted);
      const isInGroup =
        wanted.group !== undefined &&
        truth.parts.some((other) => other.group === wanted.group && pairs.has(other));
      if (!own && isInGroup) continue;
      for (const path of FIELDS) {
        const field = path.startsWith('tempo') ? 'tempo' : path;
        const about = `${wanted.label}/${path.split('.')[0] ?? ''}`;
        this.leaf(field, {
          name,
          path: `parts[${wanted.label}].${path}`,
          wanted: at(wanted, path),
          came: own ? at(own, path) : null,
          truth,
          asked,
          about,
        });
      }
      if (!own) this.misses.push(`${name}: missed the part ${wanted.label}`);
    }
    const used = new Set(pairs.values());
    for (const extra of sheet.parts as unknown as readonly Part[]) {
      if (used.has(extra)) continue;
      const count = FIELDS.filter(
        (path) =>
          !isUnset(path, at(extra, path)) &&
          !/^(?:kind|appliesTo|source\.(?:book|composer|edition)|tempo\.bound)$/u.test(path),
      ).length;
      this.add('parts', { false: 2 * Math.max(1, count) }, `${name}: invented the part ${extra.label}`);
    }
  }

  private compareChoices(
    name: string,
    {
      truth,
      sheet,
      pairs,
    }: { readonly truth: Truth; readonly sheet: ExchangedSheet; readonly pairs: ReadonlyMap<Part, Part> },
  ): void {
    const label = (own: unknown): string =>
      [...pairs].find(([, part]) => part.label === own)?.[0].label ?? String(own);
    const key = (rule: unknown, of: unknown, name2: (one: unknown) => string): string =>
      `${String(rule)} ${(of as unknown[])
        .map((one) => (Array.isArray(one) ? `[${one.map(name2).sort().join(',')}]` : name2(one)))
        .sort()
        .join(';')}`;
    const own = sheet.choices.map(({ rule, of }) => key(rule, of, label));
    for (const choice of (truth.whole.choices ?? []) as Json[]) {
      const readings = [
        choice,
        ...((truth.accept.get(`choices[${((truth.whole.choices ?? []) as Json[]).indexOf(choice)}]`) ??
          []) as Json[]),
      ];
      const isRight = readings.some(({ rule, of }) => own.includes(key(rule, of, String)));
      this.add(
        'choices',
        isRight ? { right: 1 } : { missed: 1 },
        isRight ? undefined : `${name}: missed the choice ${key(choice.rule, choice.of, String)}`,
      );
    }
  }
}

/** Which part of the reading is which of the truth: by content, best first. */
function aligned(wanted: readonly Part[], came: readonly Part[]): ReadonlyMap<Part, Part> {
  const scored = wanted
    .flatMap((one, n) =>
      came.map((own, m) => ({ one, own, score: nearness(one, own), gap: Math.abs(n - m) })),
    )
    .sort((a, b) => b.score - a.score || a.gap - b.gap);
  const pairs = new Map<Part, Part>();
  const used = new Set<Part>();
  for (const least of [2.5, 2])
    for (const { one, own, score } of scored)
      if (score >= least && !pairs.has(one) && !used.has(own)) {
        pairs.set(one, own);
        used.add(own);
      }
  return pairs;
}

function nearness(one: Part, own: Part): number {
  let score = one.kind === own.kind ? 2 : 0;
  const loose: readonly (readonly [string, number])[] = [
    ['title', 3],
    ['source.book', 1],
    ['label', 1],
  ];
  for (const [path, weight] of loose)
    if (!isUnset(path, at(one, path)) && !isUnset(path, at(own, path)))
      score += weight * likeness(at(one, path), at(own, path));
  const exact: readonly (readonly [string, number])[] = [
    ['source.number', 3],
    ['source.page', 1],
    ['key', 3],
    ['octaves', 0.5],
    ['points', 0.5],
  ];
  for (const [path, weight] of exact)
    if (at(one, path) !== null && at(own, path) !== null)
      score += canon(at(one, path)) === canon(at(own, path)) ? weight : -weight;
  const [names, others] = [(one.appliesTo ?? []) as string[], (own.appliesTo ?? []) as string[]];
  if (names.length > 0 && others.length > 0)
    score += names.some((name) => others.some((other) => likeness(name, other) > 0.5)) ? 2 : -2;
  const bpm = at(one, 'tempo.bpmMax');
  return score + (bpm !== null && bpm === at(own, 'tempo.bpmMax') ? 0.5 : 0);
}
