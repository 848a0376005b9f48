/** The outline of a sound: the peaks of so many equal stretches of it, 0 where a stretch is empty. */
export function outlineOf(mono: Float32Array, stretches: number): Float32Array {
  const peaks = new Float32Array(stretches);
  for (let s = 0; s < stretches; s++) {
    const to = Math.floor(((s + 1) * mono.length) / stretches);
    let most = 0;
    for (let i = Math.floor((s * mono.length) / stretches); i < to; i++)
      most = Math.max(most, Math.abs(mono[i] as number));
    peaks[s] = most;
  }
  return peaks;
}
