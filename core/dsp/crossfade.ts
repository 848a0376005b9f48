/** Likeness of two stretches of sound, −1 to 1: their normalised correlation. */
export function likeness(x: Float32Array, a: number, b: number, length: number): number {
  let ab = 0;
  let aa = 0;
  let bb = 0;
  for (let i = 0; i < length; i++) {
    const p = x[a + i] ?? 0;
    const q = x[b + i] ?? 0;
    ab += p * q;
    aa += p * p;
    bb += q * q;
  }
  return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0;
}

/**
 * Weights of the outgoing and the incoming sound at a place (0 to 1) in a crossfade whose power stays even for sounds of a
 * given likeness (Fink, Holters and Zölzer, "Signal-matched power-complementary cross-fading", 2016): alike sounds fade by
 * equal gain, unlike ones by equal power.
 */
export function fadeWeights(place: number, alike: number): readonly [number, number] {
  const out = 1 - place;
  const scale = 1 / Math.sqrt(out * out + place * place + 2 * out * place * Math.max(0, alike));
  return [out * scale, place * scale];
}

/** A loop's frame, taken once round for ever: the sound at frame `t` of a playback that loops `[start, end)` with a crossfade before `end`. */
export function loopedSample(
  x: Float32Array,
  loop: { start: number; end: number; fade: number },
  alike: number,
  t: number,
): number {
  const { start, end, fade } = loop;
  const u = t < end ? t : start + ((t - start) % (end - start));
  if (u < end - fade) return x[u] ?? 0;
  const [out, back] = fadeWeights((u - (end - fade)) / fade, alike);
  return out * (x[u] ?? 0) + back * (x[u - (end - start)] ?? 0);
}
