/** How answers are remembered. Shape: a key is null for what is not to be; `most` answers are kept */
interface Remembering<Args extends readonly unknown[]> {
  readonly keyOf?: (...args: Args) => string | null;
  readonly most?: number;
}

/**
 * A function that remembers its answers, for texts that are read again and again as somebody corrects them.
 * Shape:  the same answer for the same key, which is all arguments one after the other where no other is given; whoever
 *         gets an answer must not change it; all is forgotten when there are many
 */
export function remembered<Args extends readonly unknown[], Answer>(
  answer: (...args: Args) => Answer,
  { keyOf = (...args) => args.join('\n\u0000'), most = 4000 }: Remembering<Args> = {},
): (...args: Args) => Answer {
  const known = new Map<string, Answer>();
  return (...args) => {
    const key = keyOf(...args);
    if (key === null) return answer(...args);
    const had = known.get(key);
    if (had !== undefined || known.has(key)) return had as Answer;
    if (known.size >= most) known.clear();
    const made = answer(...args);
    known.set(key, made);
    return made;
  };
}
