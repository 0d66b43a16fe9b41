import type { CoachStudy } from './coach-studies.data.js';

/** Eight more, written with their lists after the reading was made and before it had read them. */
export const LATER_STUDIES: readonly CoachStudy[] = [
  {
    name: 'Copper Kettle',
    instrument: 'Clarinet in B♭',
    head: 'M:4/4\nL:1/16\nQ:1/4=104\nK:F',
    music:
      '!mf!(F4A4c4f4)|e2.d2.c2.B2 A8|(GABc)(dcBA) .G2.B2.d2.g2|f8 z8|(F4A4c4f4)|e2.d2.c2._B2 A4^G4|(A=Bcd)(ecBA) .A2.c2.e2.a2|a8 z8|' +
      "!p!(c'4 a4 f4 c4)|(_d'4 b4 g4 _d4)|!<(!(A^GA^G A^GA^G) (ABcd efga)!<)!|!f!b4-bagf e2d2c2B2|A4 z4 c4 z4|!ff!F16|]",
    keeps: [
      'deciding 3-11',
      'return 5-7',
      'rare-note surprise off-key 10 ~ D♭',
      'awkward 3-12',
      'tie 12',
      'dynamics 11',
      '?rare-note surprise off-key 6-11',
      '?range 9-14',
      '?breath 1-14',
      '?leap 9-12',
      '?dynamics 1-14',
      '?run 11',
      '?shows',
    ],
  },
  {
    name: 'Heron at Dusk',
    instrument: 'Flute',
    head: 'M:3/4\nL:1/8\nQ:1/4=54\nK:Db',
    music:
      "!p!(d4 f2)|(a4 g2)|(f2 e2 d2)|c4 z2|(d4 f2)|(a4 _b2)|(c'2 b2 a2)|!breath!a6|[K:A]!mf!(c'2 b2 a2)|(e4-e2-|e2 f2 g2)|a6|" +
      '"^poco rit."(f2 e2 d2)|!fermata!e6|[K:Db]"^a tempo"!pp!(d4 f2)|(a4 g2)|(f2 d2 A2)|!trill!B4 A2|d6-|d6|]',
    keeps: [
      'deciding 1-20',
      'change 9 ~ A major',
      'change 15 ~ D♭',
      'return 5-6',
      'return 15-17',
      'breath 1-20 ~ s',
      'tempo 13-15',
      'ornament 18',
      '?tie 10',
      '?held 19',
      '?dynamics 1-20',
      '?range 9-18',
      '?shows',
    ],
  },
  {
    name: 'Cart Road',
    instrument: 'Cello',
    head: 'M:2/4\nL:1/16\nQ:1/4=112\nK:G clef=bass',
    music:
      '!f!G,,D,B,D, G,,D,B,D,|A,,D,CD, A,,D,CD,|B,,D,DD, B,,D,DD,|G,,4D,4|G,,D,B,D, G,,D,B,D,|A,,E,^CE, A,,E,^CE,|D,A,^FA, D,A,FA,|D,8|' +
      '!p!(G4-G2F2)|(E4-E2D2)|(C2D2E2F2)|D8|[G,,D,B,]4[D,A,F]4|"^pizz."G,,4D,4|"^arco"!f!v(GFED) (CB,A,G,)|G,,8|]',
    keeps: [
      'deciding 1-15',
      'return 5-6',
      'rare-note surprise 6 ~ C♯',
      'technique 13',
      'technique 14',
      'technique 15',
      'tie 9-10',
      '?awkward 1-15',
      '?range 9-16',
      '?dynamics 1-16',
      '?leap 1-16',
      '?shows',
    ],
  },
  {
    name: 'Harbour Gate',
    instrument: 'Trumpet in B♭',
    head: 'M:4/4\nL:1/16\nQ:1/4=120\nK:Bb',
    music:
      '!f!!accent!B4 .F2.F2 !accent!B4 .d2.d2|!accent!f4 .d2.d2 B8|!accent!e4 .c2.c2 !accent!e4 .g2.g2|f8 z8|!accent!B4 .F2.F2 !accent!B4 .d2.d2|f4 .d2.d2 B8|' +
      '.B.c.d.e .f.e.d.c .B.A.G.A .B2z2|F16|(3f2f2f2 (3f2f2f2 ffff f4|z4 f4 z2f2 g4|_a4 g4 _g4 f4|!<(!=e8 f8!<)!|!ff!b8 f8|B8 z8|]',
    keeps: [
      'deciding 7-9',
      'odd-one-out return 6 ~ accent',
      'meter 9',
      'off-key rare-note 11-12',
      'range 13',
      '?return repeat 5-6',
      '?surprise rare-note 11-12',
      '?tie 10',
      '?awkward 11-12',
      '?breath 1-14',
      '?dynamics 12-13',
      '?shows',
    ],
  },
  {
    name: 'Tin Roof',
    instrument: 'Tenor Saxophone',
    head: 'M:6/8\nL:1/8\nQ:3/8=100\nK:D',
    music:
      "!mf!(def) .a.f.d|(gba) .e.f.g|(fac') d'3|a3 z3|(def) .a.f.d|(gba) .e.=f.g|!accent!fa!accent!c'd' !accent!ba|a3 z3|" +
      '[M:3/4]d2 f2 a2|z d z f z a|[M:6/8](bag) (fed)|(c/d/e/f/g/a/) b3|b3-bag|f6|]',
    keeps: [
      'deciding 12',
      'return 5-7',
      'rare-note surprise 6 ~ F♮',
      'meter 7',
      'change 9 ~ 3/4',
      'tie 10',
      'tie 13',
      '?change 11',
      '?awkward 3-14',
      '?range 3-10',
      '?leap 1-14',
      '?breath 1-14',
      '?odd-one-out 7',
      '?dynamics 1-14',
      '?run 12',
      '?shows',
    ],
  },
  {
    name: 'Snow Lantern',
    instrument: 'Oboe',
    head: 'M:2/4\nL:1/8\nQ:1/8=80\nK:Bb',
    music:
      '!p!(B2 d2)|(f3 e)|(d/c/B/c/ d2)|c4|(B2 d2)|(f3 g)|(a/g/f/g/ a2)|b4|!mf!(b2 _a2)|(g2 _g2)|(f/e/d/c/B/c/d/e/)|f4|' +
      '!turn!d2 c2|(e/4d/4c/4d/4e/4f/4g/4a/4) b2|!fermata!f4|"^Tempo I"!pp!(B2 d2)|(f3 e)|d4-|d2 z2|]',
    keeps: [
      'deciding 14',
      'feel 1',
      'return 5-7',
      'off-key rare-note surprise 9-10',
      'ornament 13',
      'tempo 15-16',
      'breath 1-19 ~ s',
      '?return repeat 16-18',
      '?held 18',
      '?range 8-14',
      '?awkward 1-16',
      '?dynamics 1-19',
      '?run 11-14',
      '?shows',
    ],
  },
  {
    name: 'Brass Buttons',
    instrument: 'Xylophone',
    head: 'M:2/4\nL:1/16\nQ:1/4=132\nK:C',
    music:
      "!f!cege cege|dfaf dfaf|egbg egbg|c'4 z4|cege cege|dfaf df_af|_e_gbg ebgb|c'8|c2c'2 d2d'2|e2e'2 f2f'2|(5:4:5gabc'd' c'4|c8|]",
    keeps: [
      'deciding 1-7',
      'return 5-7',
      'off-key rare-note surprise 6-7',
      'fast-run 11',
      'leap 9-10',
      '?range 8-12',
      '?dynamics 1-12',
      '?run 1-7',
      '?shows',
    ],
  },
  {
    name: 'Long Field',
    instrument: 'Euphonium',
    head: 'M:4/4\nL:1/8\nQ:1/4=66\nK:Eb clef=bass',
    music:
      '!mp!(E,4 G,2B,2)|(E6 D2)|(C4 B,2A,2)|G,8|(E,4 G,2B,2)|(E6 F2)|(G4 E2C2)|B,8|!f!(B4 G2E2)|(=A,4 C2E2)|D4 F4-|F2E2D2C2|' +
      '!>(!(B,4 A,2G,2)|(F,4 D,4)!>)!|!p!E,8-|E,8|z8|z8|z8|!pp!E,8|]',
    keeps: [
      'deciding 9-12',
      'return 5-7',
      'rare-note surprise 10 ~ A♮',
      'tie 11-12',
      'breath 1-16 ~ s',
      'rest 16-20',
      'range 9',
      '?leap 9-10',
      '?held 15',
      '?dynamics 1-20',
      '?shows',
    ],
  },
];
