/**
 * A stretch between commas, colons, dashes, brackets and what is read already.
 * Shape:  `sign` is what stands behind it
 * Units:  characters of the line
 */
export interface Segment {
  readonly start: number;
  readonly end: number;
  readonly plain: string;
  readonly sign: string;
  readonly isBracketed: boolean;
}

const NO_BREAK = /(?:\b(?:no|nos|op|vol|bk|mvt|movt|mvmt|st|mr|mrs|ms|dr|\p{Lu})|\d)$/iu;

/** Cuts a line into its segments. Shape: in order; what is covered already is in none */
export function segmentsOf(plain: string): Segment[] {
  const cutter = new Cutter(plain);
  for (let n = 0; n < plain.length; n += 1) cutter.step(n);
  cutter.close(plain.length, '');
  return cutter.segments;
}

class Cutter {
  readonly segments: Segment[] = [];
  private start = 0;
  private depth = 0;
  private isQuoted = false;

  constructor(private readonly plain: string) {}

  step(n: number): void {
    const { plain } = this;
    const sign = plain[n] ?? '';
    if (sign === '"') {
      this.isQuoted = !this.isQuoted;
      // A comma that is printed within the marks ends the name behind them.
      if (!this.isQuoted && /[,.]/u.test(plain[n - 1] ?? '')) return this.close(n + 1, '');
    }
    if (this.isQuoted) return;
    if (/[)\]([]/u.test(sign)) {
      this.close(n, sign);
      this.depth = Math.max(0, this.depth + (/[([]/u.test(sign) ? 1 : -1));
    } else if (this.isEnd(sign, n)) this.close(n, sign);
  }

  private isEnd(sign: string, n: number): boolean {
    const { plain } = this;
    const next = plain[n + 1] ?? ' ';
    if (/[\uE000,;|]/u.test(sign)) return true;
    if (sign === ':') return /\s/u.test(next);
    if (sign === '.') return /\s/u.test(next) && !NO_BREAK.test(plain.slice(this.start, n));
    return sign === '-' && plain[n - 1] === ' ' && /[ -]/u.test(next);
  }

  close(end: number, sign: string): void {
    const own = this.plain.slice(this.start, end);
    const start = this.start + own.length - own.trimStart().length;
    const text = own.trim();
    if (text !== '')
      this.segments.push({ start, end: start + text.length, plain: text, sign, isBracketed: this.depth > 0 });
    this.start = end + sign.length;
  }
}
