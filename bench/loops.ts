import { seededRandom } from "../core/audio";
import { findLoops, LoopJudge, loopOfCandidate } from "../core/looping";
import { RATE, testBeat, testSounds } from "../core/looping/test-sounds";
import { type Figure, round } from "./figure";
import { heardSounds } from "./heard-sounds";
import { judgeByEar } from "./loop-ear";

const SEEDS = [1, 2, 3];
/** Random tries that the best candidate is held against, and the places of each end in the exhaustive search. */
const TRIES = 50;
const PLACES = 16;
/** A change of spectrum at the seam above that is heard. */
const HEARD = 1.5;
/** Beats of different tempos. */
const BEATS = 40;

/** Rising zero crossings of a sound between two frames. */
function crossings(x: Float32Array, from: number, to: number): number[] {
  const found: number[] = [];
  for (let i = from + 1; i < to; i++) if ((x[i - 1] as number) < 0 && (x[i] as number) >= 0) found.push(i);
  return found;
}

interface Held {
  readonly kind: string;
  readonly best: number;
  readonly change: number;
  readonly crossing: number;
  readonly random: number;
  readonly exhaustive: number;
}

/** The best score of every pair of a grid, each start moved to where it fits best within a period or two milliseconds. */
function bestOfAll(judge: LoopJudge): number {
  const { from, to } = judge.region;
  const step = (to - from) / PLACES;
  let best = 0;
  for (let e = 1; e <= PLACES; e++)
    for (let s = 0; s < e; s++) {
      const [start, end] = [Math.round(from + 1 + s * step), Math.round(from + e * step) - 1];
      if (end - start < judge.shortest) continue;
      best = Math.max(best, judge.judge(judge.fit({ start, end })).score);
    }
  return best;
}

/** The best candidate of a sound against others in it, all by the same judge. */
function hold(kind: string, channels: readonly Float32Array[], seed: number): Held | null {
  const audio = { rate: RATE, channels: [...channels] };
  const judge = LoopJudge.of(audio);
  const [best] = findLoops(audio).candidates;
  if (typeof judge === "string" || !best) return null;
  const random = seededRandom(seed);
  const { from, to } = judge.region;
  const { shortest } = judge;
  const pair = (pick: () => number) => {
    for (;;) {
      const [a, b] = [pick(), pick()].sort((x, y) => x - y) as [number, number];
      if (b - a >= shortest) return judge.judge({ start: a, end: b }).score;
    }
  };
  const zeros = crossings(channels[0] as Float32Array, from + 1, to);
  const anywhere = () => Math.round(from + 1 + random() * (to - from - 2));
  const crossing = pair(() => zeros[Math.floor(random() * zeros.length)] as number);
  const tries = Array.from({ length: TRIES }, () => pair(anywhere));
  const exhaustive = bestOfAll(judge);
  return { kind, best: best.score, change: best.parts.change, crossing, random: Math.max(...tries), exhaustive };
}

const share = (list: readonly Held[], is: (h: Held) => boolean): number => list.filter(is).length / list.length;

/** Loops that are proposed first, played for half a minute and judged by what is heard. */
function heardLoops(): Figure {
  const faults: string[] = [];
  let count = 0;
  for (const seed of SEEDS)
    for (const [kind, audio] of Object.entries(heardSounds(seed))) {
      count++;
      const [first] = findLoops(audio).candidates;
      const heard = first ? judgeByEar(audio, loopOfCandidate(first)).faults : ["no loop is found"];
      if (heard.length > 0) faults.push(`${kind}: ${heard.join(", ")}`);
    }
  return {
    name: `loop-quality, of ${count} sounds the first loop is heard in 30 s as the engine plays it`,
    value: round((100 * faults.length) / count, 1),
    unit: "%",
    against:
      "a seam beyond 1.5 × the sound's own 95th percentile, 3 dB above 8 kHz, 3 dB of movement or of the image" +
      (faults.length > 0 ? `; ${faults.join("; ")}` : ""),
    hold: "≤ 3 %",
    pass: faults.length <= 0.03 * count,
  };
}

/** How good the loops are that are proposed first. */
export function loopQuality(): Figure[] {
  const held = SEEDS.flatMap((seed) =>
    Object.entries(testSounds(seed)).flatMap(([kind, channels]) => hold(kind, channels, seed) ?? []),
  );
  const good = share(held, (h) => h.best >= 0.95 * h.exhaustive);
  const better = share(held, (h) => h.best >= h.crossing && h.best >= h.random);
  const heard = share(held, (h) => h.change > HEARD);
  const beats = wholeBarsOf();
  const worst = [...held].sort((a, b) => a.best / a.exhaustive - b.best / b.exhaustive)[0];
  const figure = (name: string, value: number, hold: string, pass: boolean, against: string): Figure => ({
    ...{ name: `loop-quality, ${name}`, value: round(100 * value, 1), unit: "%", hold, pass, against },
  });
  return [
    heardLoops(),
    figure(
      `of ${held.length} sounds at least 95 % as good as the best of ${(PLACES * (PLACES + 1)) / 2} pairs`,
      good,
      "100 %",
      good === 1,
      worst ? `the least: ${worst.kind}, ${worst.best} against ${worst.exhaustive}` : "",
    ),
    figure(
      `better than a random pair of zero crossings and than the best of ${TRIES} random pairs`,
      better,
      "≥ 97 %",
      better >= 0.97,
      `mean scores: ${["best", "crossing", "random"].map((k) => round(held.reduce((s, h) => s + Number(h[k as "best"]), 0) / held.length, 0)).join(", ")}`,
    ),
    figure(
      `of ${beats.count} beats of 70 to 160 a minute all candidates are whole bars within 5 ms`,
      beats.right / beats.count,
      "≥ 95 %",
      beats.right / beats.count >= 0.95,
      `the worst is ${round(beats.worst, 1)} ms off`,
    ),
    figure(
      "seams that are heard",
      heard,
      "≤ 3 %",
      heard <= 0.03,
      `change of spectrum above ${HEARD} × the sound's own`,
    ),
  ];
}

/** Of beats of many tempos, those whose every candidate is whole bars within 5 ms, and the worst error in milliseconds. */
function wholeBarsOf(): { readonly count: number; readonly right: number; readonly worst: number } {
  const random = seededRandom(11);
  let right = 0;
  let worst = 0;
  for (let n = 0; n < BEATS; n++) {
    const tempo = 70 + 90 * random();
    const x = testBeat(n, tempo, 4 + 4 * (n % 2), random() < 0.5 ? 0 : random());
    const bar = 240 / tempo;
    const { candidates } = findLoops({ rate: RATE, channels: [x] });
    const errors = candidates.map((loop) => {
      const bars = (loop.end - loop.start) / RATE / bar;
      return Math.abs(bars - Math.max(1, Math.round(bars))) * bar;
    });
    const error = errors.length > 0 ? Math.max(...errors) : 1;
    if (error <= 0.005) right++;
    worst = Math.max(worst, 1000 * error);
  }
  return { count: BEATS, right, worst };
}

/** How fast loops are found. */
export function loopSpeed(): Figure[] {
  const random = seededRandom(9);
  const sounds = Array.from({ length: 8 }, (_, n) => {
    const f = 55 * 2 ** (n / 2);
    const make = (detune: number) =>
      Float32Array.from({ length: 5 * RATE }, (_, i) => {
        const t = i / RATE;
        return 0.3 * Math.exp(-0.4 * t) * Math.sin(2 * Math.PI * f * detune * t) + 0.001 * (random() - 0.5);
      });
    return { rate: RATE, channels: [make(1), make(1.001)] };
  });
  findLoops(sounds[0] as (typeof sounds)[0]);
  const began = performance.now();
  for (const sound of sounds) findLoops(sound);
  const each = (performance.now() - began) / sounds.length;
  const judge = LoopJudge.of(sounds[0] as (typeof sounds)[0]);
  const searched = performance.now();
  if (typeof judge !== "string") bestOfAll(judge);
  const all = performance.now() - searched;
  const long = {
    rate: RATE,
    channels: [
      Float32Array.from({ length: 60 * RATE }, (_, i) => 0.2 * Math.sin(i * 0.03) + 0.05 * Math.sin(i * 0.0301)),
    ],
  };
  const start = performance.now();
  findLoops(long);
  const minute = (performance.now() - start) / 1000;
  return [
    {
      name: "loop-speed, a stereo sound of 5 s on one core",
      value: round(each / 1000),
      unit: "s",
      ratio: round(each / 5000),
      against: `its own length; 88 of them would take ${round((88 * each) / 1000, 0)} s, the first answer is there after ${round(each / 1000)} s; ${(PLACES * (PLACES + 1)) / 2} pairs without a search take ${round(all / each)} × as long`,
      hold: "≤ 1 ×",
      pass: each <= 5000,
    },
    {
      name: "loop-speed, a sound of 60 s on one core",
      value: round(minute, 1),
      unit: "s",
      hold: "≤ 5 s",
      pass: minute <= 5,
    },
  ];
}
