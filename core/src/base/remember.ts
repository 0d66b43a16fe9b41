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

/**
 * A function of one thing that never changes: its answer is remembered for as long as the thing is there.
 * Shape:  the same answer for the same object; whoever gets it must not change it
 */
export function rememberedFor<Thing extends object, Answer>(
  answer: (thing: Thing) => Answer,
): (thing: Thing) => Answer {
  const known = new WeakMap<Thing, { readonly answer: Answer }>();
  return (thing) => {
    const had = known.get(thing);
    if (had) return had.answer;
    const made = answer(thing);
    known.set(thing, { answer: made });
    return made;
  };
}
