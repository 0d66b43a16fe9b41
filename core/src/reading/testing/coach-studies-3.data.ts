import type { CoachStudy } from './coach-studies.data.js';

/** Six more, written with their lists when all rules stood, with as little as possible left open. */
export const LAST_STUDIES: readonly CoachStudy[] = [
  {
    name: 'Weaver’s Round',
    instrument: 'Viola',
    head: 'M:9/8\nL:1/8\nQ:3/8=69\nK:D clef=alto',
    music:
      '!mf!(D2F) (A2F) (D2A,)|(E2G) (B2G) E3|(FED) (EDC) (DCB,)|A,9|(D2F) (A2F) (D2A,)|(E2G) (_B2G) E3|(FED) (E^DE) (F=DF)|D9||' +
      '!p!"^con sord."[D2F2]G [E2G2]A [F2A2]B|[G6B6] z3|(A/B/c/d/e/f/) (e/d/c/B/A/G/) F3|"^senza sord."!f!E3 C3 A,3|!fermata!D9|]',
    keeps: [
      'deciding 11',
      'return 5-8 ~ 1–4',
      'rare-note surprise 6 ~ B♭',
      'technique 9-12 ~ mute',
      'technique 9-10 ~ stop',
      'range 4-12',
      '?rare-note 7',
      '?dynamics',
      '?shows',
      '?run 11',
      '?held 4-13',
      '?meter 7',
      '?awkward 6-7',
    ],
  },
  {
    name: 'Pump House',
    instrument: 'Tuba',
    head: 'M:2/2\nL:1/8\nQ:1/2=84\nK:Eb clef=bass',
    music:
      '!f!.E,,2.G,,2.B,,2.E,2|.D,2.B,,2.G,,2.B,,2|.C,2.A,,2.F,,2.A,,2|B,,,8|.E,,2.G,,2.B,,2.E,2|.D,2.B,,2.G,,2.B,,2|.C,2.A,,2.=F,,2.=A,,2|B,,,8|' +
      '!p!(B,,2C,2D,2E,2)|(F,2E,2D,2C,2)|z2 B,,2 z2 B,,2|z2 B,,2 z B,, z B,,|!<(!E,,F,,G,,A,, B,,C,D,E,|F,2!<)!!ff!G,2 F,2D,2|E,8-|E,4 z4|]',
    keeps: [
      'deciding 13',
      'return 5-7',
      'rare-note surprise 7 ~ A♮',
      'breath 1-16 ~ s',
      'tie 11-12',
      'range 4-14',
      '?dynamics',
      '?shows',
      '?held 15',
      '?odd-one-out 4-8',
      '?run 13',
    ],
  },
  {
    name: 'Larkspur',
    instrument: 'Soprano Saxophone',
    head: 'M:3/4\nL:1/8\nQ:1/4=88\nK:Bm',
    music:
      '!mf!(B3 c d2)|(f4 e2)|(d2 c2 B2)|^A6|(B3 c d2)|(f4 g2)|(a2 g2 f2)|e6|(3(def)(3(edc) B2|(3(cde)(3(dcB) ^A2|(f6-|f2 e2 d2)|' +
      '[K:B]!p!(b3 a g2)|(f4 e2)|(d2 c2 B2)|!trill!c4 B2|[M:5/8](Bcd) (ef)|(Bc) (def)|[M:3/4]B6|]',
    keeps: [
      'deciding 9-18',
      'return 5-7',
      'change 13 ~ 5 sharps',
      'change 17 ~ 5/8',
      'meter 17-18',
      'tie 11-12',
      'ornament 16',
      'breath 1-19 ~ s',
      'range 4-13',
      '?rare-note 4-10 ~ A♯',
      '?change 17-19',
      '?awkward 4-18',
      '?dynamics',
      '?shows',
      '?held 11-19',
      '?surprise 5-11',
    ],
  },
  {
    name: 'Three Kettles',
    instrument: 'Timpani',
    head: 'M:4/4\nL:1/8\nQ:1/4=108\nK:C clef=bass',
    music:
      '!f!G,,2 C,2 G,,2 C,2|G,,G,,C,C, G,,2 C,2|!///!G,,8|C,2 z2 z4|G,,2 C,2 G,,2 C,2|G,,G,,C,C, G,,/G,,/G,,/G,,/ C,2|!///!G,,8|C,2 z2 z4|z8|z8|z8|' +
      '!p!z4 z2 G,,2|C,2 z2 E,2 z2|G,,/G,,/G,,/G,,/ C,/C,/C,/C,/ E,/E,/E,/E,/ G,,2|!<(!!///!G,,8-|G,,8!<)!|!ff!C,2 z2 z4|]',
    keeps: [
      'deciding 14',
      'return 5-6',
      'technique ornament 3-16 ~ roll',
      'rest 9-12',
      'dynamics 15-16',
      '?dynamics',
      '?range 1-17',
      '?tie 15',
      '?held 15',
      '?return repeat 7-8',
      '?shows',
      '?meter tie 13',
    ],
  },
  {
    name: 'The Ferryman Waits',
    instrument: 'Baritone voice',
    head: 'M:4/4\nL:1/4\nQ:1/4=66\nK:F clef=bass',
    music:
      '!p!(C F,) A, C|D2 C2|B, A, G, F,|G,4|(C F,) A, C|D2 !mf!F2|E D C B,|!fermata!A,4|_A, _A, G, _A,|_D2 C2|B,_A, G, F,|=E,4|' +
      '"^a tempo"!pp!(C F,) A, C|!<(!D E F A,!<)!|!f!F3 C|F,4-|F,4|]',
    keeps: [
      'deciding 1-15',
      'return 5-8',
      'off-key 9-11',
      'tempo 8-13',
      'breath 1-17 ~ s',
      'return repeat 13-14',
      '?range 6-15',
      '?leap 14',
      '?held 16',
      '?dynamics',
      '?shows',
    ],
  },
  {
    name: 'Glazier’s Hornpipe',
    instrument: 'Flute',
    head: 'M:4/4\nL:1/16\nQ:1/4=112\nK:G',
    music:
      '!f!g3f g3a b3a g3d|e3g d3g B8|c3e d3c B3d c3B|A8 D8|g3f g3a b3a g3d|e3g d3g B8|c3e d3^c B3d =c3B|!accent!G8 z8|' +
      "(gabc')(d'c'ba) (gabg)(edBd)|(cdef)(gfed) (cdec)(AFDF)|(gabc')(d'c'ba) (gab^g)(edBd)|!trill!a8 g8|b7 c' d'7 b|g16|]",
    keeps: [
      'deciding 9-11',
      'return 5-7',
      'return 11',
      'rare-note surprise 7 ~ C♯',
      'rare-note surprise 11 ~ G♯',
      'double-dot 13',
      'ornament 12',
      '?range 4-13',
      '?leap 4-8',
      '?breath 1-14',
      '?awkward 1-13',
      '?run 9-11',
      '?dynamics',
      '?shows',
    ],
  },
];
