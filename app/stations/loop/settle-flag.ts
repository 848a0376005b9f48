import type { UnitFacts } from "./loop-units";

/** What a flag settles on where it is let go: a zero crossing, a whole number of periods, a beat, or nothing. */
export type SettlesOn = "nothing" | "zero" | "period" | "beat";

/** Frames around a flag in which a zero crossing is looked for. */
const NEAR = 600;

/** The rising zero crossing that lies nearest to a frame; the frame itself where there is none near. */
export function nearestCrossing(samples: Float32Array, frame: number): number {
  for (let off = 0; off <= NEAR; off++)
    for (const at of off === 0 ? [frame] : [frame - off, frame + off])
      if ((samples[at - 1] ?? 0) < 0 && (samples[at] ?? 0) >= 0) return at;
  return frame;
}

/** The place nearest to a frame that is a whole number of periods from another, at least one. */
export function wholePeriods(frame: number, from: number, period: number): number {
  const periods = (frame - from) / period;
  const whole = Math.sign(periods || 1) * Math.max(1, Math.round(Math.abs(periods)));
  return from + Math.round(whole * period);
}

/** The beat that lies nearest to a frame. */
export const nearestBeat = (frame: number, { frames, origin }: { readonly frames: number; readonly origin: number }) =>
  Math.round(origin + Math.round((frame - origin) / frames) * frames);

/** Where a loop's flag settles: `other` is the loop's other end, periods and beats in frames, null where none is known. */
export function settledFlag(
  on: SettlesOn,
  frame: number,
  other: number,
  samples: Float32Array | null,
  { period, beat }: Pick<UnitFacts, "period" | "beat">,
): number {
  if (on === "zero" && samples) return nearestCrossing(samples, frame);
  if (on === "beat" && beat) return nearestBeat(frame, beat);
  return on === "period" && period !== null ? wholePeriods(frame, other, period) : frame;
}
