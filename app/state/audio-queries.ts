import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { create } from "zustand";
import type { Audio, CloseSamples, Peaks } from "../../core/audio";
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

/** Plays any sound in place of the one that was playing; by `name` one sees that it is still being heard. */
export async function hear(audio: Audio, name = ""): Promise<void> {
  stop();
  const playing = { sha: name, from: 0, rate: audio.rate, loop: 0, started: performance.now() };
  const ended = () => useAudition.setState((now) => (now.playing === playing ? { playing: null } : now));
  useAudition.setState({ playing: name === "" ? null : playing });
  stop = await engine.audition(audio, ended);
}

/** Ends what is being listened to. */
export function hush(): void {
  stop();
  useAudition.setState({ playing: null });
}

/** Plays a stretch of a stored sound, in place of the one that was playing, once or again and again; `to` may lie beyond its end. */
export async function audition(sha: string, from: number, to: number, loop = false): Promise<void> {
  stop();
  try {
    const start = Math.max(0, Math.round(from));
    const audio = await audioWorker().stretch(sha, start, Math.round(to));
    const frames = audio.channels[0]?.length ?? 0;
    const playing = { sha, from: start, rate: audio.rate, loop: loop ? frames : 0, started: performance.now() };
    const ended = () => useAudition.setState((now) => (now.playing === playing ? { playing: null } : now));
    stop = await engine.audition(audio, ended, loop);
    useAudition.setState({ playing });
  } catch (error) {
    tell("error", `It can't be played: ${error instanceof Error ? error.message : String(error)}.`);
  }
}
