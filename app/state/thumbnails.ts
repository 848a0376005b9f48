import { create } from "zustand";
import { audioWorker } from "../workers/audio-worker";

/** Columns of a small waveform. */
export const THUMBNAIL = 48;

/** Small waveforms of samples by content: peaks of equal stretches, 0 to 1. */
export const useThumbnails = create<{ readonly of: ReadonlyMap<string, Float32Array> }>(() => ({ of: new Map() }));

/** Most that are kept: what is shown at once is fewer. */
const MOST = 4000;
const TOGETHER = 24;
const asked = new Set<string>();

/** Asks for the small waveforms of samples; they come a few at a time, those that are there stay. */
export async function wantThumbnails(shas: readonly string[]): Promise<void> {
  const wanted = shas.filter((sha) => !asked.has(sha)).slice(0, MOST);
  for (const sha of wanted) asked.add(sha);
  for (let at = 0; at < wanted.length; at += TOGETHER) {
    const some = wanted.slice(at, at + TOGETHER);
    const made = await audioWorker().thumbnails(some, THUMBNAIL);
    useThumbnails.setState(({ of }) => {
      const next = new Map([...of].slice(-MOST));
      some.forEach((sha, i) => {
        const peaks = made[i];
        if (peaks) next.set(sha, peaks);
      });
      return { of: next };
    });
  }
}
