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
  /** Beats per minute; 120 unless given. */
  readonly tempo?: number;
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
  engine.setTempo(song.tempo ?? 120);
  engine.rules = song.rules ?? null;
  engine.setPlan(song.plan);
  for (const [sha, audio] of song.samples) {
    if (song.plan.impulses.includes(sha)) engine.addImpulse(sha, resample(audio, song.rate));
    // A sound may be a room and be played as well.
    if (song.plan.samples.includes(sha)) engine.addSample(sha, audio);
  }
  const frames = Math.ceil(song.seconds * song.rate);
  const left = new Float32Array(frames);
  const right = new Float32Array(frames);
  let next = 0;
  for (let at = 0; at < frames; at += 128) {
    const to = Math.min(frames, at + 128);
    for (let event = song.events[next]; event; event = song.events[++next]) {
      const frame = Math.round(event.seconds * song.rate);
      if (frame >= to) break;
      engine.midi(event.status, event.data1, event.data2, frame);
    }
    engine.render(left, right, at, to);
    if (song.progress && at % 65536 === 0) song.progress(at / frames);
  }
  song.done?.(engine.status());
  return { rate: song.rate, channels: [left, right] };
}
