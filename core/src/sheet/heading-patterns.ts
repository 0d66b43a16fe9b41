/** A list or group of pieces: "List A", "Group B – choose one". Source: common practice, no source. */
export const LIST_HEADING = /^(?<word>list|group)\s+(?<letter>[A-F])\b\s*[:.-]?\s*(?<rest>.*)$/iu;

/** A heading that names a kind of part and nothing else. Source: common practice, no source. */
export const KIND_HEADING =
  /^(?:(?:required|prepared|orchestral|slow|fast|lyrical|technical|melodic|rhythmic|major|minor|chromatic|harmonic minor|melodic minor|solo)\s+)*(?:[eé]tudes?|stud(?:y|ies)|excerpts?|scales?|arpeggios?|scales and arpeggios|chromatic(?: scales?)?|solos?|sight[- ]?reading|rudiments?|aural(?: tests?)?|improvisation|pieces|repertoire)\s*(?:\((?<paren>.*)\))?\s*:?\s*(?<points>\(?\d{1,3}\s*(?:points|pts|marks)\)?)?$/iu;

/** A named field of the sheet itself, or the opening of a part: "Year: 2027", "Part: Etude". Source: common practice, no source. */
export const HEAD_KEYED =
  /^(?<key>body|organi[sz]ation|year|season|instruments?|part|item|component|requirement)\s*:\s*(?<value>.+)$/iu;

/** Nothing but signs. Source: common practice, no source. */
export const ONLY_LABEL = /^[\s\p{P}]*$/u;
