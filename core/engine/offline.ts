import { type Audio, resample, type Seconds } from "../audio";
import { compileKernels, startKernels } from "../dsp";
import { Engine, type EngineStatus } from "./engine";
import type { NoteRules } from "./note-rules";
import type { Plan } from "./plan";

export interface SongRender {
  readonly plan: Plan;
  readonly samples: ReadonlyMap<string, Audio>;
  readonly events: readonly {
    readonly seconds: number;
    readonly status: number;
    readonly data1: number;
    readonly data2: number;
  }[];
  readonly rate: number;
  /** How long to render. */
  readonly seconds: Seconds;
  readonly seed?: number;
  /** How much longer it may become, as long as it still sounds after that; 0 unless given. */
  readonly tail?: Seconds;
  /** Quarter notes a minute. */
  readonly tempo: number;
  /** `live`: as it sounds while playing; `best` (the default) transposes samples more carefully. */
  readonly quality?: "live" | "best";
  readonly rules?: NoteRules | null;
  readonly progress?: (share: number) => void;
  /** Told how the engine did, once all is rendered: voices that were dropped, how hard the limiter had to work. */
  readonly done?: (status: EngineStatus) => void;
}

/** Renders events offline: the same sound as live, in stereo. */
export function renderSong(song: SongRender): Audio {
  const engine = new Engine(startKernels(compileKernels()), {
    rate: song.rate,
    seed: song.seed ?? 1,
    quality: song.quality ?? "best",
  });
  engine.setTempo(song.tempo);
  engine.rules = song.rules ?? null;
  engine.setPlan(song.plan);
  for (const [sha, audio] of song.samples) {
    if (song.plan.impulses.includes(sha)) engine.addImpulse(sha, resample(audio, song.rate));
    // A sound may be a room and be played as well.
    if (song.plan.samples.includes(sha)) engine.addSample(sha, audio);
  }
  const frames = Math.ceil(song.seconds * song.rate);
  const longest = frames + Math.ceil((song.tail ?? 0) * song.rate);
  const left = new Growing(frames);
  const right = new Growing(frames);
  const block = [new Float32Array(BLOCK), new Float32Array(BLOCK)] as const;
  /** Where what was heard last ends. */
  let heard = frames;
  let next = 0;
  let at = 0;
  while (at < frames || (at < longest && at - heard < song.rate * QUIET)) {
    const count = Math.min(BLOCK, (at < frames ? frames : longest) - at);
    for (let event = song.events[next]; event; event = song.events[++next]) {
      const frame = Math.round(event.seconds * song.rate);
      if (frame >= at + count) break;
      engine.midi(event.status, event.data1, event.data2, frame);
    }
    engine.render(block[0], block[1], 0, count);
    left.add(block[0], count);
    right.add(block[1], count);
    at += count;
    if (at > frames && (loud(block[0], count) || loud(block[1], count))) heard = at;
    if (song.progress && at % 65536 === 0) song.progress(Math.min(1, at / longest));
  }
  song.done?.(engine.status());
  // The silence by which it was told that it is over isn't part of it.
  const length = Math.max(frames, Math.min(at, heard));
  return { rate: song.rate, channels: [left.all(length), right.all(length)] };
}

const BLOCK = 128;
/** Below −90 dB for half a second, it is over. */
const SILENCE = 10 ** (-90 / 20);
const QUIET: Seconds = 0.5;

function loud(x: Float32Array, count: number): boolean {
  for (let i = 0; i < count; i++) if (Math.abs(x[i] as number) > SILENCE) return true;
  return false;
}

/** Sound that becomes as long as it has to. */
class Growing {
  private data: Float32Array;
  private length = 0;

  constructor(frames: number) {
    this.data = new Float32Array(Math.max(BLOCK, frames));
  }

  add(block: Float32Array, count: number): void {
    if (this.length + count > this.data.length) {
      const more = new Float32Array(Math.ceil(this.data.length * 1.5) + count);
      more.set(this.data);
      this.data = more;
    }
    this.data.set(block.subarray(0, count), this.length);
    this.length += count;
  }

  all(frames: number): Float32Array {
    return this.data.slice(0, frames);
  }
}
