import {
  type FoundMode,
  type FoundSlice,
  findAttacks,
  findModes,
  findPartials,
  hitOf,
  logSpectrum,
  type MeasuredSlice,
  SliceMeter,
} from "../../../core/analysis";
import { type Audio, framesOf } from "../../../core/audio";
import type { Beat, Flattening, Loop, Shot, Take } from "../../../core/instrument";
import {
  findBeat,
  findLoops,
  judgeLoop,
  type LoopAnswer,
  type LoopCandidate,
  type LoopWish,
  levelCurveOf,
  otherEnds,
} from "../../../core/looping";
import { judgeShot, type Landed, type ShotVerdict, searchTake } from "../../../core/mapping";
import { fluxOf, hold, levelsOf } from "./held-audio";

/** Seconds of a take in which attacks are looked for unasked. */
const LONGEST_LOOK = 600;

/** Softest mode that is looked for: what is shown and taken of them is chosen afterwards. */
const SOFTEST = -60;

/** What is looked for in a sample, for the rows of a unit's table. */
export interface RingSearch {
  readonly as: "modes" | "partials";
  readonly most: number;
  /** Of partials, the moment in seconds; null: over the sample's whole time. */
  readonly at: number | null;
  /** Of modes, the frequency whose multiples alone are looked for; null: they may stand anywhere. */
  readonly harmonicsOf: number | null;
}

let measuring = 0;

/** Lets other messages through. */
const breathe = (): Promise<void> =>
  new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      resolve();
    };
    port2.postMessage(null);
  });

/** Finds the sounds of a take and measures them. */
export const finding = {
  /** Finds the sounds of a take as its search says. */
  async search(
    take: Pick<Take, "sha" | "search" | "markers" | "frames" | "rate">,
  ): Promise<{ floor: number; slices: FoundSlice[] }> {
    const entry = await hold(take.sha);
    const levels = levelsOf(entry);
    return { floor: levels.floor, slices: searchTake(take, levels, () => fluxOf(entry)) };
  },

  /** How many attacks there are inside slices that were found by level: notes that ring into one another. Zero of takes that are too long for looking. */
  async attacksInside({
    sha,
    slices,
  }: Pick<Take, "sha"> & { readonly slices: readonly FoundSlice[] }): Promise<number> {
    const entry = await hold(sha);
    const { rate } = entry.audio;
    if (framesOf(entry.audio) > LONGEST_LOOK * rate) return 0;
    const attacks = findAttacks(fluxOf(entry), levelsOf(entry), 0.3, 0.08);
    const apart = 0.12 * rate;
    return attacks.filter((at) => slices.some((s) => at > s.onset + apart && at < s.end - apart)).length;
  },

  /** Measures pitch, level and colour of some slices; null when another measuring has taken its place meanwhile. */
  async measure(
    sha: string,
    slices: readonly FoundSlice[],
    progress: (share: number) => void,
  ): Promise<MeasuredSlice[] | null> {
    const entry = await hold(sha);
    const turn = ++measuring;
    entry.meter ??= new SliceMeter(entry.audio);
    const found: MeasuredSlice[] = [];
    for (const [i, slice] of slices.entries()) {
      const key = `${slice.start}/${slice.end}/${slice.onset}`;
      let measured = entry.measured.get(key);
      if (!measured) {
        measured = entry.meter.measure(slice);
        entry.measured.set(key, measured);
        // Between two slices other calls get their turn, so that a search is answered while this goes on.
        await breathe();
        if (turn !== measuring) return null;
      }
      found.push(measured);
      if (i % 8 === 0) progress(i / slices.length);
    }
    return found;
  },

  /** What else the strike note of a slice may be, best first. */
  async strikeNotes(sha: string, slice: FoundSlice): Promise<{ note: number; score: number }[]> {
    return new SliceMeter((await hold(sha)).audio).alternatives(slice);
  },

  /** Loops of a sound, best first, or why there are none. */
  async findLoops(sha: string, wish: LoopWish): Promise<LoopAnswer> {
    return findLoops((await hold(sha)).audio, wish);
  },

  /** What a loop is worth as it is; null where nothing can be said. */
  async judgeLoop(sha: string, loop: Loop, wish: LoopWish): Promise<LoopCandidate | null> {
    return judgeLoop((await hold(sha)).audio, loop, wish);
  },

  /** Frames to which one end of a loop may go while the other stays. */
  async otherEnds(
    sha: string,
    loop: Pick<Loop, "start" | "end">,
    which: "start" | "end",
    wish: LoopWish,
  ): Promise<readonly number[]> {
    return otherEnds((await hold(sha)).audio, loop, which, wish);
  },

  /** How loud a sound is from place to place. */
  async levelCurve(sha: string, from: number, to: number, period: number | null): Promise<Flattening> {
    const { audio } = await hold(sha);
    return levelCurveOf(audio.channels, audio.rate, from, to, period);
  },

  /** The beat of a sound between two frames, and its attacks; null where there is none. */
  async findBeat(
    sha: string,
    from: number,
    to: number,
  ): Promise<(Beat & { readonly attacks: readonly number[] }) | null> {
    const found = findBeat((await hold(sha)).audio, from, to);
    return found && { tempo: found.tempo, downbeat: found.downbeat, bar: found.bar, attacks: found.attacks };
  },

  /** What rings in a sample that was hit, or the partials of one; with the spectrum in which they were found. */
  async rings(sha: string, search: RingSearch): Promise<{ found: FoundMode[]; spectrum: Float32Array }> {
    const { audio } = await hold(sha);
    const { rate } = audio;
    const [left, right] = audio.channels;
    const mono = left && right ? left.map((x, i) => (x + (right[i] as number)) / 2) : left;
    if (!mono) return { found: [], spectrum: new Float32Array(0) };
    if (search.as === "partials")
      return {
        found: findPartials(mono, rate, search),
        spectrum: logSpectrum(mono, rate, Math.round((search.at ?? 0) * rate)),
      };
    const { most, harmonicsOf } = search;
    const found = findModes(mono, rate, { most, threshold: SOFTEST, ...(harmonicsOf === null ? {} : { harmonicsOf }) });
    return { found, spectrum: logSpectrum(mono, rate, hitOf(mono, rate)) };
  },

  /** Judges a sound that came in for an entry of the shot list. */
  judge(audio: Audio, shot: Shot, floor: number, landed: readonly Landed[], tolerance: number): ShotVerdict {
    return judgeShot(audio, shot, floor, landed, tolerance);
  },
};
