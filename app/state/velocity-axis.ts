/** The velocity axis of the field: which velocities are at its lower and upper edge, over how many pixels. */
export interface VelocityAxis {
  readonly height: number;
  readonly low: number;
  readonly high: number;
}

/** Fewest velocities that are shown. */
const LEAST = 8;

/** A stretch of velocities moved and zoomed so that it stays within 0 to 127 and shows at least 8. */
export function settleVelocities(low: number, count: number): { velFrom: number; velTo: number } {
  const size = Math.round(Math.min(127, Math.max(LEAST, count)));
  const velFrom = Math.round(Math.min(127 - size, Math.max(0, low)));
  return { velFrom, velTo: velFrom + size };
}
