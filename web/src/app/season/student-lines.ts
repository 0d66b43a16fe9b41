/** One student as a line of a pasted list names it. */
export interface StudentLine {
  readonly name: string;
  readonly instrument: string;
}

/** What a pasted list gives. Shape: names twice in the list count once; `withoutInstrument` are among the students. */
export interface StudentLines {
  readonly students: readonly StudentLine[];
  readonly withoutInstrument: readonly string[];
}

/**
 * Reads a pasted list of students.
 * Shape:  one a line: a name, then tab, comma, semicolon or a dash between spaces, then the instrument; bullets and
 *         numbers in front are passed over; who has no instrument gets the one for all
 */
export function readStudentLines(text: string, instrumentForAll: string): StudentLines {
  const students = new Map<string, StudentLine>();
  for (const line of text.split(/\r?\n/u)) {
    const plain = line.replace(/^\s*(?:[-*•·]|\d{1,3}[.)])\s*/u, '').trim();
    const [name = '', instrument = ''] = plain.split(/\s*(?:\t|,|;|\s[–—-]\s)\s*/u);
    if (name === '' || students.has(name.toLowerCase())) continue;
    students.set(name.toLowerCase(), { name, instrument: instrument || instrumentForAll.trim() });
  }
  const all = [...students.values()];
  return {
    students: all,
    withoutInstrument: all.filter(({ instrument }) => instrument === '').map(({ name }) => name),
  };
}
