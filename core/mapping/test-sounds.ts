import { newSample, type Sample } from "../instrument";
import { placeSounds } from "./place";
import type { PlaceSound } from "./place-parts";

/** Every sound over its nearest keys. */
export const SPREAD = { mode: "nearest", low: 0, high: 127 } as const;
/** Evidence that says nothing. */
const SILENT: PlaceSound["says"] = {
  note: null,
  strength: null,
  repeat: null,
  velocities: null,
  microphone: null,
  trigger: null,
  group: null,
  doubt: "",
};
/** Samples so far: each has a content of its own. */
let count = 0;
/** A sample of its own. */
export const sample = (given: Partial<Sample> = {}): Sample => {
  count++;
  return newSample({
    sha: count.toString(16).padStart(64, "0"),
    name: `s${count}`,
    frames: 1000,
    loudness: -20,
    ...given,
  });
};
/** A sound that says this and nothing else. */
export const sound = (says: Partial<PlaceSound["says"]>, given: Partial<Sample> = {}): PlaceSound => ({
  sample: sample(given),
  says: { ...SILENT, ...says },
});
/** Where sounds are placed. */
export const place = (sounds: readonly PlaceSound[]) => placeSounds(sounds, SPREAD, (i) => `z${i}`);
