import { useQuery } from "@tanstack/react-query";
import { create } from "zustand";
import type { Peaks } from "../../core/audio";
import { engine } from "../audio/engine";
import { audioWorker } from "../workers/audio-worker";
import { tell } from "./notices";

/** A sound's waveform and samples. */
export interface Wave {
  readonly peaks: Peaks;
  readonly samples: Float32Array;
}

/** The waveform of a stored sound, once it is there. */
export function useWave(sha: string | null) {
  return useQuery<Wave>({
    queryKey: ["wave", sha],
    queryFn: () => audioWorker().peaks(sha ?? ""),
    enabled: sha !== null,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 120000,
    retry: false,
  });
}

/** A stretch of a stored sound that is being played as it is. */
export interface Audition {
  readonly sha: string;
  readonly from: number;
  readonly rate: number;
  /** By `performance.now()`. */
  readonly started: number;
}

/** What is being listened to, beside the instrument; null for nothing. */
export const useAudition = create<{ readonly playing: Audition | null }>(() => ({ playing: null }));

let stop: () => void = () => {};

/** Plays a stretch of a stored sound, in place of the one that was playing; `to` may lie beyond its end. */
export async function audition(sha: string, from: number, to: number): Promise<void> {
  stop();
  try {
    const start = Math.max(0, Math.round(from));
    const audio = await audioWorker().stretch(sha, start, Math.round(to));
    const playing = { sha, from: start, rate: audio.rate, started: performance.now() };
    const ended = () => useAudition.setState((now) => (now.playing === playing ? { playing: null } : now));
    stop = await engine.audition(audio, ended);
    useAudition.setState({ playing });
  } catch (error) {
    tell("error", `It can't be played: ${error instanceof Error ? error.message : String(error)}.`);
  }
}
