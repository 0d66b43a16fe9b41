import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { runCommand } from './run-command.js';

const root = fileURLToPath(new URL('../../', import.meta.url));
const run = (...args: string[]): ReturnType<typeof runCommand> => runCommand(args, root);
const json = (...args: string[]): unknown => JSON.parse(run(...args, '--json').text);

describe('vivid-cue', () => {
  it('score prints the measure map, the order and the seconds of a study', () => {
    const printed = json('score', 'demo/studies/slack-water.musicxml') as Readonly<Record<string, unknown>>;
    expect(Object.keys(printed)).toEqual(
      jasmine.arrayWithExactContents([
        'title',
        'instrument',
        'partId',
        'transpose',
        'measures',
        'order',
        'seconds',
        'notes',
        'parts',
        'warnings',
      ]),
    );
    // Counted on paper: a pickup of an eighth and 28 measures of three quarters at ♩.=66, which is ♩=99; 1–7 come again.
    expect(printed['seconds']).toEqual({ straight: jasmine.any(Number), unrolled: jasmine.any(Number) });
    expect((printed['seconds'] as { straight: number }).straight).toBeCloseTo((84.5 * 60) / 99, 6);
    expect((printed['seconds'] as { unrolled: number }).unrolled).toBeCloseTo(((84.5 + 21) * 60) / 99, 6);
    expect((printed['measures'] as unknown[])[1]).toEqual(
      jasmine.objectContaining({
        index: 1,
        number: '1',
        implicit: false,
        time: '6/8',
        fifths: -2,
        quarters: 3,
        quarterBpm: 99,
      }),
    );
  });

  it('convert counts ♩=132 in eighths as 264', () => {
    expect(json('convert', 'q=132', '--to', 'eighth')).toEqual(
      jasmine.objectContaining({ beatUnit: 'eighth', bpm: 264 }),
    );
    expect(json('convert', 'crotchet = 80', '--to', 'minim')).toEqual(
      jasmine.objectContaining({ beatUnit: 'half', bpm: 40 }),
    );
  });

  it('ladder takes eight rungs from 60 to 127 by 10, fourteen by 4 % of the target, and the dial’s own', () => {
    const count = (...args: string[]): number =>
      (json('ladder', ...args) as { rungs: unknown[] }).rungs.length;
    expect(count('--from', '60', '--to', '127', '--step', '10')).toBe(8);
    expect(count('--to', '100', '--step', '4%')).toBe(14);
    expect(count('--from', '60', '--to', '72', '--step', 'dial')).toBe(5);
  });

  it('drills makes exercises of four measures, lasting as long where they must, and writes them as scores', () => {
    const out = mkdtempSync(join(tmpdir(), 'drills-'));
    const drills = json('drills', 'demo/studies/lee-shore.musicxml', '--span', '9-12', '--out', out) as {
      kind: string;
      why: string;
      measures: string[];
      quarters: number;
      notes: { pitch: string | null; quarters: number }[];
    }[];
    expect(drills.map(({ kind }) => kind)).toContain('reverse-dotted');
    // Four measures of common time.
    for (const { kind, quarters } of drills.filter(({ kind: one }) => /dotted|tongued|alone/u.test(one)))
      expect([kind, quarters]).toEqual([kind, 16]);
    const widening = drills.find(({ kind }) => kind === 'widening');
    expect(widening?.measures).toEqual([
      '9',
      '10',
      '11',
      '12',
      '9-10',
      '10-11',
      '11-12',
      '9-11',
      '10-12',
      '9-12',
    ]);
    const files = readdirSync(out);
    expect(files.length).toBe(drills.filter(({ notes }) => notes.length > 0).length);
    const back = json('score', join(out, files[0] ?? '')) as { measures: unknown[] };
    expect(back.measures.length).toBe(4);
    rmSync(out, { recursive: true });
  });

  it('breath says where to breathe, at what harm, and from which tempo one breath is enough', () => {
    const study = 'demo/studies/petrel-song.musicxml';
    const plan = json('breath', study, '--span', '1-8', '--air', '12', '--bpm', '84') as {
      stretches: { from: string; to: string; quarters: number; seconds: number }[];
      breaths: { measure: string; beat: number; harm: number; why: string }[];
      feasible: boolean;
      slowestOneBreathBpm: number;
    };
    // Eight measures of three quarters without a rest: 24 × 60 ÷ (12 × 0.85), and one breath in the middle of them.
    expect(plan.slowestOneBreathBpm).toBeCloseTo((24 * 60) / 10.2, 1);
    expect(plan.stretches.map(({ from, to, quarters }) => [from, to, quarters])).toEqual([
      ['1', '4', 12],
      ['5', '8', 12],
    ]);
    expect([plan.feasible, plan.breaths[0]]).toEqual([
      true,
      jasmine.objectContaining({ measure: '4', beat: 4, why: 'where the phrase ends' }),
    ]);
    const moved = json(
      'breath',
      study,
      '--span',
      '1-8',
      '--air',
      '12',
      '--bpm',
      '84',
      '--never',
      '4:4',
    ) as typeof plan;
    expect(moved.breaths.map(({ measure, beat }) => `${measure}:${beat}`)).not.toContain('4:4');
    expect(json('fit', '--quarters', '32', '--air', '15')).toEqual({
      bpm: 150.59,
      usableSeconds: 12.75,
      airSeconds: 15,
    });
    expect((json('fit', '--quarters', '32', '--seconds', '12.75') as { bpm: number }).bpm).toBe(150.59);
    for (const [args, sentence] of [
      [['breath', study], /--air takes the seconds of a long tone.*nothing came/u],
      [
        ['breath', study, '--air', '12', '--must', '4:9'],
        /--must 4:9 is no place between two notes; there is/u,
      ],
      [['fit', '--quarters', '32'], /either --air .* or --seconds/u],
    ] as const)
      expect(run(...args)).toEqual({ exitCode: 2, text: jasmine.stringMatching(sentence) });
  });

  it('slide, fingers, valves, sticking and bow give each note its choice, and keep what is pinned', () => {
    interface Told {
      notes: { measure: string; note: number; choice: string; alternatives: string[] }[];
      cost: number;
      plainCost: number;
      because: string;
    }
    for (const [command, study] of [
      ['slide', 'slack-water'],
      ['fingers', 'ferry-lines'],
      ['valves', 'harbor-bell'],
      ['sticking', 'glass-harbour'],
      ['bow', 'lee-shore'],
    ] as const) {
      const { notes, cost, plainCost, because } = json(command, `demo/studies/${study}.musicxml`) as Told;
      expect(cost).withContext(command).toBeLessThanOrEqual(plainCost);
      expect([notes.length > 20, because.endsWith('.')])
        .withContext(command)
        .toEqual([true, true]);
    }
    const pinned = json(
      'slide',
      'demo/studies/slack-water.musicxml',
      '--span',
      '2-3',
      '--pin',
      '2:4=1',
    ) as Told;
    expect(pinned.notes.find(({ measure, note }) => measure === '2' && note === 4)?.choice).toBe('1');
    expect(run('slide', 'demo/studies/slack-water.musicxml', '--pin', '2:4=9').text).toContain(
      '--pin 2:4=9: this note has',
    );
    expect(run('valves', 'demo/studies/lee-shore.musicxml').text).toContain(
      'has no valves that are known here',
    );
  });

  it('cues writes what air and hands work out into a copy that reads as the same music', () => {
    const folder = mkdtempSync(join(tmpdir(), 'cues-'));
    const out = join(folder, 'with-cues.musicxml');
    const study = 'demo/studies/ferry-lines.musicxml';
    const { cues } = json('cues', study, '--air', '13', '--out', out) as {
      cues: { measure: string; note: number; kind: string; sign: string }[];
    };
    expect(cues).toContain(jasmine.objectContaining({ kind: 'breath', measure: '20' }) as never);
    expect(cues.filter(({ kind }) => kind === 'fingering').length).toBeGreaterThan(0);
    const notesOf = (file: string): unknown => (json('score', file) as { notes: unknown }).notes;
    expect(notesOf(out)).toEqual(notesOf(study));
    const read = json('read', out) as { breathingPlaces: { measure: string; kind: string }[] };
    expect(read.breathingPlaces).toContain(
      jasmine.objectContaining({ measure: '20', kind: 'breath mark' }) as never,
    );
    expect(run('cues', study).text).toContain('Name a score and a file to write');
    rmSync(folder, { recursive: true });
  });

  it('plan says for each day what is practised, when all is put together, and whether it holds', () => {
    const folder = mkdtempSync(join(tmpdir(), 'plan-'));
    const file = join(folder, 'plan.json');
    const passages = ['climbing', 'grounded'].map((state, n) => ({
      id: `p${n}`,
      state,
      target: { bpm: 116, beatUnit: 'quarter' },
      seconds: 8,
      part: 'etude',
    }));
    const written = {
      today: '2026-11-29',
      date: '2027-01-10',
      minutes: 30,
      cap: 45,
      restDays: [0],
      passages,
    };
    writeFileSync(file, JSON.stringify(written));
    const plan = json('plan', file) as {
      holds: boolean;
      why: string;
      assembly: { day: number; date: string };
      days: { date: string; minutes: number; passages: { id: string; rung: { bpm: number } }[] }[];
    };
    expect([plan.holds, plan.assembly]).toEqual([true, { day: 21, date: '2026-12-20' }]);
    expect(plan.why).toMatch(/^It holds\. All 2 are at tempo on 2026-12-/u);
    expect(plan.days.length).toBe(42);
    expect([plan.days[0]?.minutes, plan.days[7]?.date, plan.days[7]?.minutes]).toEqual([0, '2026-12-06', 0]);
    writeFileSync(file, JSON.stringify({ ...written, minutes: '30' }));
    expect(run('plan', file)).toEqual({
      exitCode: 2,
      text: 'minutes must be a number from 0 to 600; "30" came.',
    });
    rmSync(folder, { recursive: true });
  });

  const wrong: readonly (readonly [string, readonly string[], RegExp])[] = [
    ['a file that is not there', ['score', 'no-such.musicxml'], /cannot be read/u],
    ['a file that is no score', ['score', 'package.json'], /not a MusicXML file/u],
    [
      'a part that is not there',
      ['score', 'demo/studies/slack-water.musicxml', '--part', 'P7'],
      /P1 \(Trombone\)/u,
    ],
    ['a phrase that is no tempo', ['convert', 'blah', '--to', 'eighth'], /not a tempo/u],
    ['a number without a note', ['convert', '120 bpm', '--to', 'eighth'], /which note/u],
    ['a note value nobody knows', ['convert', 'q=60', '--to', 'sesquialtera'], /no note value/u],
    ['a tempo of 0', ['ladder', '--from', '0', '--to', '60'], /between 10 and 400/u],
    ['a step that is none', ['ladder', '--to', '60', '--step', 'wide'], /--step takes/u],
    ['an option that does not exist', ['ladder', '--speed', '4'], /Unknown option/u],
    ['a command that does not exist', ['sing'], /no command "sing"/u],
  ];
  for (const [what, args, sentence] of wrong) {
    it(`exits with 2 and one sentence for ${what}`, () => {
      const { exitCode, text } = run(...args);
      expect(exitCode).toBe(2);
      expect(text).toMatch(sentence);
      expect(text).not.toContain('\n');
    });
  }
});

describe('vivid-cue for readings', () => {
  const study = fileURLToPath(new URL('../../core/testdata/lantern-walk.musicxml', import.meta.url));

  it('read prints every finding of the format and counts demands at the tempo that is asked', () => {
    const outcome = runCommand(['read', study, '--bpm', '54', '--json'], '/');
    expect(outcome.exitCode).toBe(0);
    const read = JSON.parse(outcome.text) as Record<string, unknown>;
    expect(Object.keys(read).sort()).toEqual(
      [
        'accidentals',
        'articulations',
        'breathingPlaces',
        'deciding',
        'demands',
        'dynamics',
        'dynamicsAdvice',
        'exactRepeats',
        'findings',
        'hairpins',
        'longestHeld',
        'longestWithoutRest',
        'meterTraps',
        'names',
        'nearRepeats',
        'oddOnesOut',
        'opening',
        'ornaments',
        'patterns',
        'range',
        'runs',
        'shows',
        'surprises',
        'ties',
      ].sort(),
    );
    // The file asks 108; a whole note at half of it lasts twice as long.
    expect(read['longestHeld']).toEqual({ measure: '16', quarters: 4, seconds: 4.444444 });
  });

  it('read refuses a tempo that is none and a file that is not there', () => {
    expect(runCommand(['read', study, '--bpm', 'fast'], '/').text).toMatch(
      /^--bpm takes a number .*"fast" came/u,
    );
    expect(runCommand(['read', 'none.musicxml'], '/').exitCode).toBe(2);
  });
});

describe('vivid-cue for sheets', () => {
  it('sheet prints the structure of a text, with exactly the format’s fields', () => {
    const printed = json('sheet', 'core/testdata/sheets/tuned/01-bullets.txt') as Readonly<
      Record<string, unknown>
    >;
    expect(Object.keys(printed)).toEqual([
      'body',
      'year',
      'instruments',
      'division',
      'deadlines',
      'parts',
      'choices',
      'notes',
      'questions',
      'program',
      'amends',
      'changes',
    ]);
    expect(Object.keys((printed['parts'] as object[])[0] ?? {})).toEqual([
      ...[
        'id',
        'label',
        'appliesTo',
        'kind',
        'title',
        'source',
        'measures',
        'tempo',
        'key',
        'octaves',
        'noteValue',
        'range',
      ],
      ...['articulation', 'memory', 'repeats', 'accompaniment', 'maxSeconds', 'minSeconds', 'points'],
    ]);
  });

  it('sheet --instrument prints only what holds for it, pages as numbers', () => {
    const printed = json('sheet', 'demo/sheets/orrin-woodwinds.txt', '--instrument', 'Oboe') as {
      readonly parts: readonly { readonly label: string; readonly source: { readonly page: unknown } }[];
      readonly choices: readonly { readonly of: readonly string[] }[];
    };
    expect(printed.parts.map(({ label, source }) => [label, source.page])).toEqual([
      ['Oboe lyrical', 22],
      ['Oboe technical', 31],
      ['Bb major', null],
      ['G minor', null],
    ]);
    const labels = printed.parts.map(({ label }) => label);
    expect(printed.choices.flatMap(({ of }) => of).filter((name) => !labels.includes(name))).toEqual([]);
  });

  it('told prints the measure map of what is told, or what of it is not understood', () => {
    const map = json('told', '1–4 4/4; pickup 1/4; |: 1–2 :|; ♩=60') as {
      readonly measures: readonly { readonly number: string; readonly quarters: number }[];
      readonly order: readonly number[];
      readonly seconds: unknown;
    };
    expect(map.measures.map(({ number, quarters }) => [number, quarters])).toEqual([
      ['0', 1],
      ['1', 4],
      ['2', 4],
      ['3', 4],
      ['4', 4],
    ]);
    expect(map.order).toEqual([0, 1, 2, 1, 2, 3, 4]);
    expect(map.seconds).toEqual({ straight: 17, unrolled: 25 });
    expect(runCommand(['told', '1-4 4/4; jolly'], '/')).toEqual({
      exitCode: 2,
      text: jasmine.stringMatching(/^"jolly" is not understood\./u) as unknown as string,
    });
  });

  it('tempo, span and scale answer one phrase with one object', () => {
    expect(json('tempo', 'q. = 60-66')).toEqual({
      beatUnit: 'dotted-quarter',
      bpmMin: 60,
      bpmMax: 66,
      bound: 'range',
      words: null,
    });
    expect(json('span', 'mm. 9–12')).toEqual({ measures: [{ from: 9, to: 12, anchorText: null }] });
    expect(json('scale', 'D major, 2 octaves')).toEqual({ key: 'D major', octaves: 2 });
    expect(Object.keys(json('tempo', '120 bpm') as object)).toEqual(['question', 'candidates']);
  });

  it('refuses a sheet that is not there or empty with one sentence', () => {
    expect(run('sheet', 'no-such.txt')).toEqual({
      exitCode: 2,
      text: jasmine.stringContaining('cannot be read'),
    });
    expect(run('sheet')).toEqual({ exitCode: 2, text: jasmine.stringContaining('Name one sheet') });
  });
});
