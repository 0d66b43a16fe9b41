/**
 * Something recognised in a text.
 * Shape:  from `start` to before `end`
 * Units:  characters of the text that was searched
 */
export interface Found<Value> {
  readonly value: Value;
  readonly start: number;
  readonly end: number;
}

/**
 * A text in which what has been recognised can be covered, so that nothing is read twice.
 * Shape:  `plain` keeps its length; covered places hold a sign that no pattern matches
 * Units:  characters
 */
export class CoverableText {
  readonly printed: string;
  private open: string;

  constructor(printed: string, plain: string) {
    this.printed = printed;
    this.open = plain;
  }

  /** The text that is not yet recognised. */
  get plain(): string {
    return this.open;
  }

  /** Covers one place. */
  cover({ start, end }: { readonly start: number; readonly end: number }): void {
    this.open = `${this.open.slice(0, start)}${'\uE000'.repeat(end - start)}${this.open.slice(end)}`;
  }

  /** Takes every match out of the text: finds, covers and gives them. */
  take<Value>(find: (plain: string) => readonly Found<Value>[]): readonly Found<Value>[] {
    const found = find(this.open);
    for (const one of found) this.cover(one);
    return found;
  }

  /** Takes the first match of a pattern, or null. */
  takeMatch(pattern: RegExp): RegExpExecArray | null {
    const match = pattern.exec(this.open);
    if (match) this.cover({ start: match.index, end: match.index + match[0].length });
    return match;
  }
}
