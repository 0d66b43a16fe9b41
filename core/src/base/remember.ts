/**
 * A function of texts that remembers its answers, for texts that are read again and again as somebody corrects them.
 * Shape:  the same answer for the same texts; whoever gets one must not change it; all is forgotten when there are many
 * Units:  `most` answers
 */
export function remembered<Args extends readonly string[], Answer>(
  answer: (...args: Args) => Answer,
  most = 4000,
): (...args: Args) => Answer {
  const known = new Map<string, Answer>();
  return (...args) => {
    const key = args.length === 1 ? (args[0] ?? '') : args.join('\n\u0000');
    const had = known.get(key);
    if (had !== undefined || known.has(key)) return had as Answer;
    if (known.size >= most) known.clear();
    const made = answer(...args);
    known.set(key, made);
    return made;
  };
}
