import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { create } from "zustand";
import type { Audio, CloseSamples, Peaks } from "../../core/audio";
import { reasonOf } from "../basis/reason-of";
import { audioWorker } from "../workers/audio-worker";
import { engine } from "./engine";
import { tell } from "./notices";

/** A sound's waveform, with its samples where they are at hand: all of a short sound's, a window of a long one's. */
export interface Wave {
  readonly peaks: Peaks;
  readonly close: CloseSamples | null;
}

/** The waveform of a stored sound, once it is there; `whole` asks for all samples, however long it is; `channel` for one alone (0 the left). */
export function useWave(sha: string | null, whole = false, channel: number | null = null) {
  return useQuery<Wave>({
    queryKey: ["wave", sha, whole, channel],
    queryFn: async () => {
      const { peaks, samples } = await audioWorker().peaks(sha ?? "", whole, channel);
      return { peaks, close: samples ? { from: 0, values: samples } : null };
    },
    enabled: sha !== null,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 120000,
    retry: false,
  });
}

/** How loud a stored sound is, step by step, once it is measured. */
export function useLevelTrack(sha: string) {
  return useQuery<Float64Array>({
    queryKey: ["levels", sha],
    queryFn: () => audioWorker().levelTrack(sha),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 120000,
    retry: false,
  });
}

/** Windows of single samples are as many frames long, and begin at their multiples. */
const WINDOW = 131072;

/** The wave with the single samples that a close zoom of a long sound needs, once they are there. */
export function useCloseWave(sha: string, wave: Wave, span: { from: number; to: number }): Wave {
  const wanted = wave.close === null && span.to - span.from <= WINDOW;
  const first = Math.floor(span.from / WINDOW) * WINDOW;
  const { data } = useQuery<CloseSamples>({
    queryKey: ["window", sha, first],
    queryFn: async () => ({ from: first, values: await audioWorker().window(sha, first, first + 2 * WINDOW) }),
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 10000,
    retry: false,
  });
  return useMemo(() => (wanted && data ? { ...wave, close: data } : wave), [wave, wanted, data]);
}

/** A stretch of a stored sound that is being played as it is. */
export interface Audition {
  readonly sha: string;
  readonly from: number;
  readonly rate: number;
  /** Frames after which it begins again; 0 for once. */
  readonly loop: number;
  /** By `performance.now()`. */
  readonly started: number;
}

/** What is being listened to, beside the instrument; null for nothing. */
export const useAudition = create<{ readonly playing: Audition | null }>(() => ({ playing: null }));

let stop: () => void = () => {};
/** Counts who asked to hear something: whoever asked last is heard, however long it takes to be ready. */
let asked = 0;

/** Plays any sound in place of the one that was playing; by `name` one sees that it is still being heard. */
export async function hear(audio: Audio, name = ""): Promise<void> {
  await hearNext(async () => ({ audio, sha: name, from: 0, loop: false, shown: name !== "" }));
}

/** Ends what is being listened to, and what is still being made ready for it. */
export function hush(): void {
  asked++;
  stop();
  engine.hush();
  useAudition.setState({ playing: null });
}

/** Plays a stretch of a stored sound, in place of the one that was playing, once or again and again; `to` may lie beyond its end. */
export const audition = (sha: string, from: number, to: number, loop = false): Promise<void> =>
  hearNext(async () => {
    const start = Math.max(0, Math.round(from));
    const audio = await audioWorker().stretch(sha, start, Math.round(to));
    return { audio, sha, from: start, loop, shown: true };
  });

/** Plays what is made of a stored sound, all its channels alike, in place of the one that was playing; `name` as for `hear`. */
export const hearMade = (
  sha: string,
  make: (channel: Float32Array, channels: readonly Float32Array[]) => Float32Array,
  name = "",
): Promise<void> =>
  hearNext(async () => {
    const { rate, channels } = await audioWorker().stretch(sha, 0, Number.MAX_SAFE_INTEGER);
    const audio = { rate, channels: channels.map((c) => make(c, channels)) };
    return { audio, sha: name, from: 0, loop: false, shown: name !== "" };
  });

interface Listened {
  readonly audio: Audio;
  readonly sha: string;
  readonly from: number;
  readonly loop: boolean;
  /** Whether it is told what is heard. */
  readonly shown: boolean;
}

async function hearNext(ready: () => Promise<Listened>): Promise<void> {
  const turn = ++asked;
  stop();
  stop = () => {};
  try {
    const { audio, sha, from, loop, shown } = await ready();
    if (turn !== asked) return;
    const { rate } = audio;
    const frames = audio.channels[0]?.length ?? 0;
    const playing = { sha, from, rate, loop: loop ? frames : 0, started: performance.now() };
    const ended = () => useAudition.setState((now) => (now.playing === playing ? { playing: null } : now));
    useAudition.setState({ playing: shown ? playing : null });
    const stopped = await engine.audition(audio, ended, loop);
    if (turn === asked) stop = stopped;
    else stopped();
  } catch (error) {
    if (turn === asked) tell("error", `It can't be played: ${reasonOf(error)}.`);
  }
}
