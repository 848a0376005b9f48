/** Note values by their id, as they are called, and how many beats (quarters) each has; `off` doesn't follow the tempo. */
const NOTE_VALUES = [
  { id: "off", label: "Off", beats: 0 },
  { id: "4", label: "4 bars", beats: 16 },
  { id: "2", label: "2 bars", beats: 8 },
  { id: "1", label: "1/1", beats: 4 },
  { id: "1/2", label: "1/2", beats: 2 },
  { id: "1/4.", label: "1/4 dotted", beats: 1.5 },
  { id: "1/4", label: "1/4", beats: 1 },
  { id: "1/4t", label: "1/4 triplet", beats: 2 / 3 },
  { id: "1/8.", label: "1/8 dotted", beats: 0.75 },
  { id: "1/8", label: "1/8", beats: 0.5 },
  { id: "1/8t", label: "1/8 triplet", beats: 1 / 3 },
  { id: "1/16", label: "1/16", beats: 0.25 },
  { id: "1/32", label: "1/32", beats: 0.125 },
] as const;

/** A parameter that syncs a time to the tempo. */
export const sync = (help: string) =>
  ({ type: "choice", id: "sync", label: "Sync", choices: NOTE_VALUES, default: "off", help }) as const;

/** Cycles per second of something that swings: at a rate of its own, or once in a note value (by its number). */
export const swingRate = (rate: number, beat: number, tempo: number): number => {
  const beats = BEATS[beat] ?? 0;
  return beats > 0 ? tempo / 60 / beats : rate;
};

/** Seconds of a time: its own, or a note value (by its number). */
export const beatTime = (seconds: number, beat: number, tempo: number): number => {
  const beats = BEATS[beat] ?? 0;
  return beats > 0 ? (beats * 60) / tempo : seconds;
};

/** Beats of each note value, by its number among the choices; 0 for none. */
export const BEATS: readonly number[] = NOTE_VALUES.map((v) => v.beats);

/** Beats of a note value, by its id; 0 where it doesn't follow the tempo. */
export const beatsOf = (id: string): number => NOTE_VALUES.find((v) => v.id === id)?.beats ?? 0;
