import { perform, plainly } from '../../core/dist/takes/testing/performer.js';
import { synthesise, TIMBRES } from '../../core/dist/takes/testing/synthesiser.js';
import { askedMusic } from '../../core/dist/takes/follow/asked-notes.js';
import { readTake } from '../../core/dist/takes/index.js';
import { seededRandom } from '../../core/dist/base/index.js';
import { wholePace } from '../../core/dist/reading/index.js';
import { readScore } from '../../core/dist/score/index.js';
import { longStudy } from './long-study.mjs';
import { line, ratio } from './timing.mjs';

const MINUTE = 60;

/** A take of three minutes: how long it takes to read, against its own length, and with how much memory beside the sound. */
export function benchTakes() {
  const [one, three] = [1, 3].map((minutes) => takeOf(minutes * MINUTE));
  const short = measured(one);
  const long = measured(three);
  line('A take of three minutes', `${long.seconds.toFixed(1)} s`, 'promise: under 20 s on one core');
  line('  beside its own length', ratio(long.seconds / (3 * MINUTE)));
  line('  three minutes against three times one', ratio(long.seconds / (3 * short.seconds)));
  line('  memory at its end', `${Math.round(long.megabytes)} MB`, 'promise: under 300 MB');
}

function takeOf(seconds) {
  const whole = readScore(new TextEncoder().encode(longStudy(128))).value;
  const pace = wholePace(whole, null);
  const count = whole.measures.findIndex(
    ({ start }) => (start.num / start.den / pace.segments[0].quarterBpm) * MINUTE >= seconds,
  );
  const spans = [{ fromIndex: 0, endIndex: count < 0 ? whole.measures.length : count }];
  const music = askedMusic(whole, { spans, withRepeats: true, pace });
  const random = seededRandom(1);
  const played = perform(music, { ...plainly(pace.segments[0].quarterBpm), unsteady: 0.01 }, random);
  const sound = synthesise(played.played, { timbre: TIMBRES.clarinet, seconds: played.seconds, random });
  return { sound, score: whole, spans };
}

function measured({ sound, score, spans }) {
  const before = process.memoryUsage();
  const start = process.cpuUsage();
  let most = 0;
  const watch = () => (most = Math.max(most, process.memoryUsage().rss));
  const read = readTake(sound, score, { spans, withRepeats: true, bpm: null, tell: watch });
  watch();
  const { user, system } = process.cpuUsage(start);
  if (!read.ok) throw new Error(read.issues[0].message);
  return {
    seconds: (user + system) / 1e6,
    megabytes: (most - before.rss) / 1048576,
    notes: read.value.notes.length,
  };
}
