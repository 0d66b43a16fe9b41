/** Instruments as sheets name them, with what a player of each is called (common practice, no source). */
export const INSTRUMENTS: readonly (readonly [string, string | null])[] = [
  ['piccolo', null],
  ['alto flute', null],
  ['flute', 'flut(?:e players?|ists?)|flautists?'],
  ['english horn', null],
  ['cor anglais', null],
  ['oboe', 'oboists?'],
  ['contrabassoon', null],
  ['bassoon', 'bassoonists?'],
  ['(?:e[b♭]|e-flat) clarinet', null],
  ['bass clarinet', 'bass clarinet(?:t)?ists?'],
  ['contra(?:bass)? clarinet', null],
  ['alto clarinet', null],
  ['(?:b[b♭]|b-flat|a) clarinet', null],
  ['clarinet', 'clarinet(?:t)?ists?'],
  ['soprano sax(?:ophone)?', 'soprano saxophonists?'],
  ['alto sax(?:ophone)?', 'alto saxophonists?'],
  ['tenor sax(?:ophone)?', 'tenor saxophonists?'],
  ['bari(?:tone)? sax(?:ophone)?', 'baritone saxophonists?'],
  ['saxophone', 'saxophonists?|sax(?:es)?'],
  ['horn in f', null],
  ['f horn', null],
  ['horn|french horn', 'hornists?|horn players?'],
  ['trumpet|b[b♭] trumpet', 'trumpeters?|trumpet players?'],
  ['cornet', 'cornetists?|cornet players?'],
  ['flugelhorn', null],
  ['bass trombone', 'bass trombonists?'],
  ['tenor trombone', null],
  ['trombone', 'trombonists?'],
  ['euphonium', 'euphonium players?'],
  ['baritone(?: horn| t\\.?c\\.?| b\\.?c\\.?)?', null],
  ['tuba', 'tubists?|tuba players?'],
  ['snare drum', null],
  ['mallets?(?: percussion)?', null],
  ['marimba', null],
  ['xylophone', null],
  ['timpani', 'timpanists?'],
  ['percussion', 'percussionists?'],
  ['drum ?set', 'drummers?'],
  ['violin', 'violinists?'],
  ['viola', 'violists?'],
  ['cello|violoncello', 'cellists?'],
  ['(?:double|string) bass', '(?:double )?bassists?'],
  ['contrabass', null],
  ['harp', 'harpists?'],
  ['piano', 'pianists?'],
  ['guitar', 'guitarists?'],
  ['voice', 'singers?|vocalists?'],
];

/** Words that belong to a sheet's heading but name no body (common practice, no source). */
export const HEADING_WORDS =
  /\b(?:auditions?|requirements?|information|materials?|etudes?|études?|packets?|syllabus(?:es)?|memo|season|entry|forms?|re|guidelines|prescribed|official|list|prepared|home|pre-?screening|undergraduate|graduate|high|middle|junior|senior|grade|division|for|the|of|and|in|to|from|set|music|set rotation|live|recorded|update[sd]?|handbook)\b/giu;

/** Words that mark the name of a body (common practice, no source). */
export const BODY_WORDS =
  /\b(?:board|bands?|orchestras?|association|philharmonic|symphony|conservator(?:y|ium)|league|society|academy|federation|directors|educators|ensembles?|winds|council|festival|institute|school|schools|all-?region(?:al)?|region(?:al)?|county|all-?county|district|all-?district|all-?state|all-?island|state|honou?rs?|youth|examinations|music|college|university|strings|percussion|choir|solo|trust|guild|consortium|congress|union|exchange|circle|assembly|masters|teachers|players|prize|institution|fellowship|alliance|sinfonia|symphonic|committee|bureau|network|collective|competition|circuit|qualifier|centre|center|foundation)\b/giu;
