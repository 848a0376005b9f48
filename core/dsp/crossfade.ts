/** Likeness of two stretches of sound, −1 to 1: their normalised correlation. */
export function likeness(x: Float32Array | ((frame: number) => number), a: number, b: number, length: number): number {
  const read = typeof x === "function" ? x : (i: number): number => x[i] ?? 0;
  let ab = 0;
  let aa = 0;
  let bb = 0;
  for (let i = 0; i < length; i++) {
    const p = read(a + i);
    const q = read(b + i);
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
  if (place <= 0) return [1, 0];
  if (place >= 1) return [0, 1];
  const out = 1 - place;
  const scale = 1 / Math.sqrt(out * out + place * place + 2 * out * place * Math.max(0, alike));
  return [out * scale, place * scale];
}

/** Likeness that a loop's crossfade assumes: as measured, or as its owner says. */
export function likenessOf(
  x: Float32Array | ((frame: number) => number),
  loop: { start: number; end: number; fade: number; mode: string; law: "match" | "gain" | "power" },
): number {
  if (loop.law === "power") return 0;
  // A mirror meets itself: near the turn both sides are the same.
  if (loop.law === "gain" || loop.fade <= 0 || loop.mode === "alternating") return 1;
  const { start, end, fade } = loop;
  return loop.mode === "backward" ? likeness(x, start, end, fade) : likeness(x, end - fade, start - fade, fade);
}
