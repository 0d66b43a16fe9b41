const BOOK_NOUN =
  '(?:Stud(?:y|ies)|[EÉ]tudes|Lessons|Pieces|Method|Scenes|Album|Sketches|Caprices|Exercises|Book|Volume|Vol\\.?|Suite|Sonatina|Solos|Melodies|Duets|Collection|Miniatures|Preludes|Inventions|Songs|Dances|Tunes)';
const NAME_WORD =
  "(?:\\p{Lu}\\.|\\p{Lu}[\\p{Ll}'’]+(?:-\\p{Lu}[\\p{Ll}'’]+)*|(?:van|von|de|di|da|del|der|la|le)\\b)";
const NAME = `(?:${NAME_WORD}\\s*){1,3}(?:\\p{Lu}[\\p{Ll}'’]+(?:-\\p{Lu}[\\p{Ll}'’]+)*)`;
const WHOLE_NAME = new RegExp(`^${NAME}$`, 'u');
const NO_NAME = new RegExp(
  `\\b(?:${BOOK_NOUN.slice(3, -1)}|Concerto|Sonata|Fantas(?:y|ia)|Song|Waltz|March|Rondo|First|Second|Third|Movement|List|Grade|Piano|Major|Minor|Option|Section|Register|January|February|March|April|June|July|August|September|October|November|December|North|South|East|West|Water|Light|Lights)\\b`,
  'u',
);

/** Whether a phrase looks like a person's name: two to four capital words or initials. */
export function isPersonName(text: string): boolean {
  return WHOLE_NAME.test(text.trim()) && !NO_NAME.test(text);
}
