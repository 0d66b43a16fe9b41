/**
 * A study with the list that a coach wrote beside it before any program had read it.
 * Shape:  `abc` without its heading; a line of the list is "kinds measures ~ words": one of the kinds, at one of the
 *         measures, with the words in it; "?" before it: kept if told, not missed if not
 */
export interface CoachStudy {
  readonly name: string;
  readonly instrument: string;
  readonly head: string;
  readonly music: string;
  readonly keeps: readonly string[];
}

/** Composed for these specs in the families in which the reading was weakest; what to keep is common practice, no source. */
export const COACH_STUDIES: readonly CoachStudy[] = [
  {
    name: 'Hillside Call',
    instrument: 'Horn in F',
    head: 'M:6/8\nL:1/8\nQ:3/8=72\nK:F',
    music:
      '!mf!c3 f3|a2f c3|(def) g3|c6|c3 f3|a2f d3|(def) e3|f6||' +
      "[K:Ab][M:2/4][Q:1/4=60]!p!!+!c2 !+!e2|!+!f2 !+!e2|a2 g2|(a/b/c'/b/ a/g/f/e/)|e4-|e2 z2|z4|z4|z4|" +
      "[K:F][M:6/8][Q:3/8=72]!ff!c'3 a3|f2c A3|F6|]",
    keeps: [
      'deciding 12',
      'change 9 ~ 2/4',
      'change 18 ~ 6/8',
      'return 5-7 ~ 1–',
      'technique 9-10 ~ stopped',
      'rest 14-17',
      'range 12-20',
      '?leap 17-18',
      '?tie 13',
      '?breath 1-14',
      '?dynamics 1-20',
      '?shows',
    ],
  },
  {
    name: 'Slow Orchard',
    instrument: 'Horn in F',
    head: 'M:3/4\nL:1/8\nQ:1/4=58\nK:C',
    music:
      "!p!(G4 c2)|(e4 d2)|(c2 g4)|e6|(G4 c2)|(e4 f2)|(g2 a2 b2)|!mf!c'6|(c'2 e2 c'2)|(b2 d2 b2)|a2 ^g2 a2|(g4-g e)|" +
      '"^rit."(f2 e2 d2)|!fermata!G6|"^a tempo"!pp!(G4 c2)|(e4 d2)|c6-|c4 z2|]',
    keeps: [
      'deciding 9-11',
      'return 5-6',
      'leap 9-10',
      'range 8-9',
      'rare-note surprise 11 ~ G♯',
      'tempo 13-15',
      'breath 1-18 ~ s',
      '?return repeat 15-16',
      '?tie 12',
      '?held 17',
      '?dynamics 1-18',
      '?shows',
    ],
  },
  {
    name: 'Quarry Steps',
    instrument: 'Trombone',
    head: 'M:4/4\nL:1/8\nQ:1/4=92\nK:Bb clef=bass',
    music:
      '!f!.B,,.D,.F,.B,.F,.D,B,,2|.C,.E,.G,.C.G,.E,C,2|D,F,B,D F2D2|F,8|.B,,.D,.F,.B,.F,.D,B,,2|.C,.E,.G,.C.A,.G,C,2|' +
      'B,,/=B,,/C,/=B,,/ _B,,/=B,,/C,/=B,,/ _B,,2F,2|F,4z4|!p!(F,G,A,B,)(CB,A,G,)|(F,E,D,C,)F,4|!<(!D,2E,2F,2G,2|A,2B,2C2!<)!D2|' +
      '!ff!F4D4|F,2D,2B,,2E,,2|B,,8|]',
    keeps: [
      'deciding 7',
      'awkward 7',
      'return 5-6',
      'range 14 ~ E♭2|below',
      'dynamics 11-12',
      'breath 1-15 ~ s',
      '?rare-note off-key surprise 7',
      '?awkward 9-10',
      '?awkward leap 13-14',
      '?odd-one-out 3',
      '?shows',
    ],
  },
  {
    name: 'Lantern Procession',
    instrument: 'Trombone',
    head: 'M:C|\nL:1/8\nQ:1/2=60\nK:F clef=bass',
    music:
      '!mf!F,4A,4|C4A,4|(5:4:5F,/G,/A,/B,/C/ D2 C4|F,8|F,4A,4|C4_A,4|D4C4|F,8|"^rit."G,4E,4|!fermata!C,8|' +
      '"^a tempo"!f!F,2A,2C2F2|G4F4-|F2E2D2C2|B,6A,2|G,4C,4|!p!F,8-|F,8|]',
    keeps: [
      'deciding 3',
      'return 5-7',
      'rare-note surprise 6 ~ A♭',
      'tempo 9-11',
      'tie 12-13',
      'breath 1-17 ~ s',
      '?range 12',
      '?held 16',
      '?feel 1',
      '?meter fast-run 3',
      '?dynamics 1-17',
      '?shows',
    ],
  },
  {
    name: 'Miller’s Walk',
    instrument: 'Bassoon',
    head: 'M:2/4\nL:1/16\nQ:1/4=100\nK:F clef=bass',
    music:
      '!mf!.F,2.A,2.C2.A,2|(F,G,A,B,)C4|.D2.B,2.F2.D2|C8|.F,2.A,2.C2.A,2|(F,G,A,=B,)C4|(D,2A,2)(_E,2C2)|(D,2A,2)C4|' +
      '!f!(B,,,2_E,,2)F,,4|F,,2.A,,2.C,2.F,2|F,G,A,B,CDEF|GFEDCB,A,G,|F,2z2F2z2|!sfz!F,,8|]',
    keeps: [
      'deciding 11-12',
      'return 5-6',
      'rare-note surprise 6 ~ B♮',
      'awkward 7-8',
      'awkward 9',
      'range 9 ~ B♭1',
      '?rare-note off-key surprise 7-9 ~ E♭',
      '?run 11-12',
      '?breath 1-14',
      '?leap 12-13',
      '?dynamics 1-14',
      '?shows',
    ],
  },
  {
    name: 'Old Clock',
    instrument: 'Bassoon',
    head: 'M:7/8\nL:1/8\nQ:1/8=168\nK:Gm clef=bass',
    music:
      '!p!.G,.A, .B,.C (DCB,)|.G,.A, .B,.C (DEF)|(G^FG) AG =FD|G,4z3|.G,.A, .B,.C (DCB,)|.G,.A, .B,.C (D=E^F)|(GFE) DC B,A,|G,4z3|' +
      '[M:4/4]!ff!G,2D,2B,,2D,2|G,,8|[M:7/8]!p!.G,.A, .B,.C (DCB,)|G,,4z3|]',
    keeps: [
      'deciding 2-7',
      'change 9 ~ 4/4',
      'change 9-11 ~ 7/8',
      'meter 3',
      'meter 7',
      'return 5-6',
      '?rare-note off-key surprise 3-7',
      '?repeat return 11',
      '?dynamics 9-11',
      '?range 10-12',
      '?leap 9-12',
      '?feel 1',
      '?breath 1-12',
      '?shows',
    ],
  },
  {
    name: 'Kite Reel',
    instrument: 'Violin',
    head: 'M:4/4\nL:1/16\nQ:1/4=120\nK:D',
    music:
      '!f!v(d2e2)f2a2(f2e2)d4|(e2f2)g2b2(g2f2)e4|fdAd gdBd fdAd gdBd|a8z8|u(d2e2)f2a2(f2e2)d4|(e2f2)g2b2(g2f2)^d4|' +
      "(=c4f4)(=c4f4)|[DA]8[A,EA]8|a2d'2f'2a'2f'2d'2a4|!open!a'8d8|\"^pizz.\"D4A4d4A4|D16|]",
    keeps: [
      'deciding 3',
      'return 5-6 ~ bow',
      'rare-note surprise 6 ~ D♯',
      'awkward 7',
      'technique 8 ~ stop|chord',
      'range 9-10 ~ A6',
      'technique 11 ~ pizz',
      '?rare-note surprise off-key 7',
      '?technique 10',
      '?run 9',
      '?leap 9-10',
      '?dynamics 1-12',
      '?shows',
    ],
  },
  {
    name: 'Winter Window',
    instrument: 'Violin',
    head: 'M:3/8\nL:1/32\nQ:1/8=66\nK:G',
    music:
      "!p!(d8b4)|(a6g2f4)|(g2a2b2c'2d'4)|b12|(d8b4)|(a6g2^d4)|(efgabc'd'e'f'4)|g'12|e4-efedc4|B4-BcBAG4|" +
      '(7:8:7GABcdef g4|!fermata!d\'12|"^dim."(b4a4g4)|(f4e4d4)|G12-|G4z8|]',
    keeps: [
      'deciding 7-11',
      'feel 1',
      'return 5-6',
      'rare-note surprise 6 ~ D♯',
      'tie 9-10',
      'fast-run 11 ~ seven|7',
      'tempo 12',
      'range 8 ~ G6',
      '?run 7-11',
      '?held 8-16',
      '?dynamics 1-16',
      '?shows',
    ],
  },
  {
    name: 'Gate Drill',
    instrument: 'Snare Drum',
    head: 'M:4/4\nL:1/16\nQ:1/4=112\nK:C clef=perc',
    music:
      '!f!!accent!c4 cccc c4 cccc|{c}c4 c4 {c}c4 c4|!accent!ccc!accent!c cc!accent!cc c!accent!ccc !accent!c4|!///!c12 c4|' +
      '!accent!c4 cccc c4 cccc|{c}c4 c4 {c}c4 cccc|(3c2c2c2 (3c2c2c2 c4 c4|z4 c4 z2c2 c4|!p!cccc cccc cccc cccc|' +
      '!<(!cccc cccc cccc cccc!<)!|!ff!{cc}c4 {cc}c4 c4 z4|(5:4:5ccccc (5:4:5ccccc c4 c4|]',
    keeps: [
      'deciding 3-12',
      'technique ornament 2-6 ~ flam',
      'technique ornament 4 ~ roll',
      'technique ornament 11 ~ drag',
      'return 6',
      'meter fast-run 12',
      '?meter 3-7',
      '?tie 3-8',
      '?return repeat 5-6',
      '?dynamics 9-11',
      '?shows',
    ],
  },
  {
    name: 'Harbor Lamps',
    instrument: 'Snare Drum',
    head: 'M:6/8\nL:1/8\nQ:3/8=84\nK:C clef=perc',
    music:
      '!mp!ccc c2c|ccc c3|c2c ccc|c3z3|ccc c2c|ccc c3|!accent!cc!accent!c c!accent!cc|!accent!c2c !accent!c2c|[M:9/8]ccc ccc c3|' +
      '[M:6/8]c/c/c/c/c/c/ ccc|c/c/c/c/c/c/ c/c/c/c/c/c/|!///!c6-|c3z3|z6|z6|!ff!c2c c3|czc zcz|c3z3|]',
    keeps: [
      'deciding 11',
      'change 9 ~ 9/8',
      'meter 7',
      'technique ornament 12 ~ roll',
      'rest 13-15',
      'meter tie 17',
      '?repeat return 5-6',
      '?return 8-10',
      '?tie 12',
      '?dynamics 1-16',
      '?shows',
    ],
  },
  {
    name: 'Glass Stair',
    instrument: 'Marimba',
    head: 'M:4/4\nL:1/16\nQ:1/4=126\nK:Em',
    music:
      '!mf!EGBe geBG EGBe geBG|DFAd fdAF DFAd fdAF|CEGc ecGE CEGc ecGE|B,^DFB ^dBFD B,8|EGBe geBG EGBe geBG|DFAd fdAF DFAd fdA=F|' +
      "E4e'4G4g'4|B8z8|(5:4:5EFGAB c4 B4 A4|[EG]4[FA]4[GB]4[Ac]4|!///![Ge]16|E16|]",
    keeps: [
      'deciding 1-6',
      'return 5-6',
      'rare-note surprise 6 ~ F♮',
      'leap 7',
      'technique 10 ~ stop|chord|two',
      'technique ornament 11 ~ roll',
      '?rare-note surprise 4 ~ D♯',
      '?meter fast-run 9',
      '?run 1-6',
      '?range 4-7',
      '?dynamics 1-12',
      '?shows',
    ],
  },
  {
    name: 'Paper Boats',
    instrument: 'Marimba',
    head: 'M:3/4\nL:1/8\nQ:1/4=96\nK:Eb',
    music:
      '!p!E2G2B2|e4B2|c2A2F2|B6|E2G2B2|e4d2|c2B2A2|G4F2|e4d2-|d2c4|zB zB zB|zc zc zc|E/F/G/A/ B/c/d/e/ f/e/d/c/|' +
      'B/A/G/F/ E/D/C/B,/ E2|[K:E]E2G2B2|e4B2|[K:Eb]E2G2B2|E6|]',
    keeps: [
      'deciding 13-14',
      'return 5-7',
      'meter tie 9-10',
      'tie meter 11-12',
      'change 15 ~ E',
      'change 15-17 ~ E♭',
      '?run 13-14',
      '?return repeat 15-17',
      '?range 13-14',
      '?dynamics 1-18',
      '?shows',
    ],
  },
];
