import type { StudyText } from './study-text.js';

// Notes: pitch, octave, value (w h q e s, t for a triplet eighth), dots; then ( ) slur, ~ tie, ! staccato, - tenuto,
// > accent. In brackets: dynamics, < and > hairpins, / their end, 1 2 endings, letters as rehearsal marks.

/** A study for clarinet in B♭, composed for the project: tune, tune again with a changed note, sixteenths, return. */
export const FERRY_LINES: StudyText = {
  file: 'ferry-lines',
  title: 'Ferry Lines',
  instrument: 'Clarinet in B♭',
  abbreviation: 'B♭ Cl.',
  midiProgram: 72,
  transpose: { diatonic: -1, chromatic: -2 },
  clef: { sign: 'G', line: 2 },
  fifths: 1,
  mode: 'major',
  beats: 4,
  beatType: 4,
  tempo: { words: 'Con moto', unit: 'quarter', dots: 0, bpm: 116 },
  music: `
    [A][mf] g4q( b4e d5e) g5q! d5q! | e5e( d5e c5e b4e) a4q- rq | a4q( c5e e5e) a5q! e5q! | f#5e( e5e d5e c#5e) d5q- rq |
    g5q( f#5e e5e) d5q! b4q! | c5e( d5e e5e c5e) b4q( a4q) | b4e! d5e! g4e! b4e! a4q> d4q> | g4h rh |
    [p] g4e( a4e b4e d5e) g5q! d5q! | e5s( f#5s e5s d5s c5e b4e) a4q- rq | a4e( b4e c5e e5e) a5q! e5q! | f5e( e5e d5e c5e) b4q- rq |
    [<] g5q( f#5e e5e) d5q! b4q! | c5e( d5e e5e f#5e) g5q( a5q) [/] | [f] b5e> a5e! g5e! f#5e! e5q> d5q> | g5h rh |
    [B][mf] e5s( f#5s g5s f#5s) e5e! b4e! e5s( f#5s g5s f#5s) e5e! b4e! | d5s( e5s f#5s e5s) d5e! a4e! d5s( e5s f#5s e5s) d5e! a4e! |
    c5s( d5s e5s d5s c5s b4s a4s b4s) c5q! e5q! | b4s( c5s d#5s f#5s) e5q> d#5q- b4q- |
    [p] e4s( f#4s g4s a4s b4s c5s d5s e5s) f#5q- g5q- | [<] a5s( g5s f#5s e5s d#5s e5s f#5s d#5s) e5q! b4q! [/] |
    [f] c6e( b5e a5e g5e) f#5e( e5e d#5e f#5e) | e5h> rq [mf] d5q |
    [C] g4q( b4e d5e) g5q! d5q! | e5e( d5e c5e b4e) a4q- rq | a4q( c5e e5e) a5q! f#5q! | g5e( f#5e e5e d5e) e5q- d5q- |
    [<] b4s( c5s d5s e5s) f#5e! g5e! a5s( g5s f#5s g5s) a5e! b5e! [/] | [f] c6q( b5e a5e) g5q> f#5q> |
    [>] g5t( f#5t e5t) d5t( c5t b4t) a4q- f#4q- [/] | [mf] g4w`,
};

/** A barcarole for trombone, composed for the project: pickup, two endings, two measures that beat in three. */
export const SLACK_WATER: StudyText = {
  file: 'slack-water',
  title: 'Slack Water',
  instrument: 'Trombone',
  abbreviation: 'Tbn.',
  midiProgram: 58,
  transpose: null,
  clef: { sign: 'F', line: 4 },
  fifths: -2,
  mode: 'major',
  beats: 6,
  beatType: 8,
  tempo: { words: 'Rocking', unit: 'quarter', dots: 1, bpm: 66 },
  music: `
    f3e |: [mp] bb3q.( d4q c4e) | bb3q( a3e g3q f3e) | g3q.( bb3q a3e) | g3q( f3e eb3q) d3e |
    eb3q.( g3q f3e) | eb3q( d3e c3q) d3e | eb3e! d3e! c3e! f3q.> |[1] bb2q.~ bb2q f3e :|[2] bb2q. rq f3e |
    [A][mf] g3e! a3e! bb3e! c4q.> | c4e( bb3e a3e) bb3q. | eb4q.( d4q c4e) | d4q( c4e bb3q) a3e |
    [<] g3q( a3q bb3q) | c4q( d4q eb4q) [/] | [f] f4q.> d4q.> | bb3q.- rq f3e |
    [B][p] gb3q.( bb3q ab3e) | gb3q( f3e eb3q) db3e | c3e! eb3e! gb3e! a3q. | bb3q.~ bb3q re |
    [C][mp] bb3q.( d4q c4e) | bb3q( a3e g3q f3e) | g3q.( bb3q a3e) | g3q( a3e bb3q) c4e |
    [<] d4e( eb4e d4e) c4e( d4e c4e) [/] | [f] bb3e( c4e bb3e) a3e( g3e f3e) | [>] bb3q.~ bb3q. [/]`,
};

/** A song for horn in F, composed for the project: a tune in major that comes back in minor. */
export const HARBOR_BELL: StudyText = {
  file: 'harbor-bell',
  title: 'Harbor Bell',
  instrument: 'Horn in F',
  abbreviation: 'Hn.',
  midiProgram: 61,
  transpose: { diatonic: -4, chromatic: -7 },
  clef: { sign: 'G', line: 2 },
  fifths: 0,
  mode: 'major',
  beats: 3,
  beatType: 4,
  tempo: { words: 'Singing', unit: 'quarter', dots: 0, bpm: 92 },
  music: `
    [A][p] g4h( c5q) | e5h( d5q) | c5q( d5e e5e f5q) | e5h. | g5h( e5q) | c5q( b4e a4e) b4q | a4q( d5q c5q) | b4h rq |
    [B][mf] g4q! c5q! e5q! | g5q.( f5e e5q) | d5q! f5q! a5q! | g5h( f5q) |
    [<] e5e( f5e e5e d5e c5e b4e) | a4e( b4e c5e d5e e5e f#5e) [/] | [f] g5q> f#5q> g5q> | g5h rq |
    [C][p] g4h( c5q) | eb5h( d5q) | c5q( d5e eb5e f5q) | eb5h( d5q) |
    [<] c5t( d5t e5t) f5t( e5t d5t) e5t( f5t g5t) [/] | [f] a5q>( g5q f5q) | [>] e5q.( d5e c5e b4e) [/] | [p] c5h.`,
};

/** A slow song for flute, composed for the project: long lines, a grace of a turn in the middle, a reprise. */
export const PETREL_SONG: StudyText = {
  file: 'petrel-song',
  title: 'Petrel Song',
  instrument: 'Flute',
  abbreviation: 'Fl.',
  midiProgram: 73,
  transpose: null,
  clef: { sign: 'G', line: 2 },
  fifths: 1,
  mode: 'major',
  beats: 3,
  beatType: 4,
  tempo: { words: 'Flowing', unit: 'quarter', dots: 0, bpm: 84 },
  music: `
    [A][mp] d5h( e5q) | g5q.( f#5e e5q) | d5q( b4q a4q) | b4h. | d5h( e5q) | g5q.( a5e b5q) | a5q( g5q e5q) | a5h. |
    [B][mf] b5h( a5q) | g5q( f#5q e5q) | a5h( g5q) | f#5q( e5q d5q) | [<] e5e( f#5e g5e a5e b5e c6e) | d6h( b5q) [/] |
    [f] a5q> g5q> e5q> | d5h. | [C][p] d5h( e5q) | g5q.( f#5e e5q) | d5q( c5q b4q) | a4q( b4q c5q) |
    [<] d5e( e5e f#5e g5e a5e b5e) [/] | [mf] c6q.( b5e a5q) | [>] g5h.~ [/] | [p] g5h rq`,
};

/** A brisk study for violin, composed for the project: a fiddle tune with string crossings. */
export const LEE_SHORE: StudyText = {
  file: 'lee-shore',
  title: 'Lee Shore',
  instrument: 'Violin',
  abbreviation: 'Vln.',
  midiProgram: 40,
  transpose: null,
  clef: { sign: 'G', line: 2 },
  fifths: 2,
  mode: 'major',
  beats: 4,
  beatType: 4,
  tempo: { words: 'Lively', unit: 'quarter', dots: 0, bpm: 126 },
  music: `
    [A][mf] d5e( f#5e) a5e! f#5e! d5e( f#5e) a5e! d6e! | c#6e( b5e) a5e! g5e! f#5q- e5q- | g5e( b5e) d6e! b5e! g5e( b5e) d6e! g5e! | f#5e( e5e) d5e! c#5e! d5h |
    d4s( a4s d5s f#5s) a5e! a5e! d4s( a4s d5s f#5s) a5e! a5e! | e4s( b4s e5s g5s) b5e! b5e! a4s( e5s a5s c#6s) e6e! c#6e! | d6e( c#6e b5e a5e) g5e( f#5e e5e d5e) | e5q> f#5q> e5h |
    [B][p] b4q( d5q f#5q b5q) | a#5e( b5e c#6e b5e) f#5h | e5q( g5q b5q e6q) | d6e( c#6e b5e c#6e) a#5h |
    [<] b5s( c#6s d6s c#6s) b5e! f#5e! g5s( a5s b5s a5s) g5e! d5e! | e5s( f#5s g5s f#5s) e5e! b4e! c#5e( d5e e5e c#5e) [/] | [f] d6q> a5q> f#5q> d5q> | d5h rh`,
};

/** A study for marimba, composed for the project: two mallets, broken chords that cross. */
export const GLASS_HARBOUR: StudyText = {
  file: 'glass-harbour',
  title: 'Glass Harbour',
  instrument: 'Marimba',
  abbreviation: 'Mar.',
  midiProgram: 12,
  transpose: null,
  clef: { sign: 'G', line: 2 },
  fifths: 0,
  mode: 'minor',
  beats: 4,
  beatType: 4,
  tempo: { words: 'Clear', unit: 'quarter', dots: 0, bpm: 100 },
  music: `
    [A][mp] a4s c5s e5s c5s a4s c5s e5s c5s g4s b4s d5s b4s g4s b4s d5s b4s | f4s a4s c5s a4s f4s a4s c5s a4s e4q> e4q |
    a4s c5s e5s a5s e5s c5s a4s c5s g4s b4s d5s g5s d5s b4s g4s b4s | f4e a4e c5e f5e e5q> rq |
    [B][mf] d5s e5s f5s e5s d5e a4e c5s d5s e5s d5s c5e g4e | b4s c5s d5s c5s b4e f4e e4q> g#4q> |
    d5s e5s f5s g5s a5e f5e c5s d5s e5s f5s g5e e5e | b4s d5s f5s g#5s b5e g#5e e5h |
    [C][p] a4s c5s e5s c5s a4s c5s e5s c5s g4s b4s d5s b4s g4s b4s d5s b4s | f4s a4s c5s a4s f4s a4s d5s a4s e4q> e4q |
    [<] a4s b4s c5s d5s e5s f5s g#5s a5s b5e g#5e e5e d5e [/] | [f] c5q> b4q> a4h`,
};

/** All studies of the demo. */
export const STUDIES: readonly StudyText[] = [
  FERRY_LINES,
  SLACK_WATER,
  HARBOR_BELL,
  PETREL_SONG,
  LEE_SHORE,
  GLASS_HARBOUR,
];
