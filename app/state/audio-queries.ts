import { useQuery } from "@tanstack/react-query";
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

let stop: () => void = () => {};

/** Plays a stretch of a stored sound, in place of the one that was playing; `to` may lie beyond its end. */
export async function audition(sha: string, from: number, to: number): Promise<void> {
  stop();
  try {
    stop = await engine.audition(await audioWorker().stretch(sha, Math.max(0, Math.round(from)), Math.round(to)));
  } catch (error) {
    tell("error", `It can't be played: ${error instanceof Error ? error.message : String(error)}.`);
  }
}
