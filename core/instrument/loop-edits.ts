import type { Edit } from "./edit";
import { type Beat, type Loop, MOST_VARIANTS, type Sample, type Zone } from "./instrument";

/** All loops to choose from of a zone, with the one in use as it is now; none where there is only that one. */
export const variantsOf = (zone: Zone): readonly Loop[] =>
  zone.loop === null
    ? zone.variants
    : zone.variants.map((loop, n) => (n === zone.variant ? (zone.loop as Loop) : loop));

/** Keeps a zone's loop as it is, and goes on with a copy of it as a further one; as it was where it has no loop, or as many as there may be. */
export function withVariant(zone: Zone): Zone {
  if (!zone.loop) return zone;
  const kept = zone.variants.length > 0 ? variantsOf(zone) : [zone.loop];
  if (kept.length >= MOST_VARIANTS) return zone;
  return { ...zone, variants: [...kept, zone.loop], variant: kept.length };
}

/** Takes another of a zone's loops into use. */
export function chooseVariant(zone: Zone, n: number): Zone {
  const variants = variantsOf(zone);
  const loop = variants[n];
  return loop ? { ...zone, variants, variant: n, loop } : zone;
}

/** Leaves the loop in use out; the one before it is used then. */
export function withoutVariant(zone: Zone): Zone {
  const left = variantsOf(zone).filter((_, n) => n !== zone.variant);
  const variant = Math.max(0, zone.variant - 1);
  const loop = left[variant] ?? null;
  if (!loop) return zone;
  return left.length === 1 ? { ...zone, variants: [], variant: 0, loop } : { ...zone, variants: left, variant, loop };
}

/** A zone that plays a sample made so many times as long, at the same places of it. */
export function stretchedZone(zone: Zone, sample: Pick<Sample, "sha" | "frames">, ratio: number): Zone {
  const place = (frame: number): number => Math.round(frame * ratio);
  const longer = (loop: Loop): Loop => ({
    ...loop,
    start: place(loop.start),
    end: Math.min(sample.frames, place(loop.end)),
    fade: place(loop.fade),
    flat: loop.flat && { ...loop.flat, from: place(loop.flat.from), step: Math.max(1, place(loop.flat.step)) },
  });
  return {
    ...zone,
    sample: sample.sha,
    start: place(zone.start),
    end: Math.min(sample.frames, place(zone.end)),
    loop: zone.loop && longer(zone.loop),
    releaseLoop: zone.releaseLoop && longer(zone.releaseLoop),
    variants: zone.variants.map(longer),
  };
}

/** A loop of a sound that is read from its last frame to its first. */
export const loopMirrored = (loop: Loop, frames: number): Loop => ({
  ...loop,
  start: frames - loop.end,
  end: frames - loop.start,
  flat: loop.flat && {
    ...loop.flat,
    from: frames - 1 - (loop.flat.from + (loop.flat.levels.length - 1) * loop.flat.step),
    levels: [...loop.flat.levels].reverse(),
  },
});

/** Says which beat is in a sample; null: none. */
export const setBeat = (sha: string, beat: Beat | null): Edit => ({
  name: beat ? "Set the beat" : "Forget the beat",
  merge: `beat:${sha}`,
  apply: (doc) => ({ ...doc, samples: doc.samples.map((s) => (s.sha === sha ? { ...s, beat } : s)) }),
});
