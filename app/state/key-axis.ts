/** The one key axis: which keys are shown, and where each stands. Shared by the keybed and whatever has keys along it. */
export interface KeyAxis {
  readonly low: number;
  readonly count: number;
  readonly width: number;
}

/** Left edge of a key, in pixels. */
export const keyX = (axis: KeyAxis, key: number): number => ((key - axis.low) * axis.width) / axis.count;

/** The key at a place, in pixels; may lie outside the keyboard. */
export const keyAt = (axis: KeyAxis, x: number): number => Math.floor(axis.low + (x * axis.count) / axis.width);

export const isBlack = (key: number): boolean => [1, 3, 6, 8, 10].includes(((key % 12) + 12) % 12);

/** An axis moved and zoomed so that it stays on the keyboard and shows 12 to 128 keys. */
export function settleAxis(low: number, count: number): { keyLow: number; keyCount: number } {
  const keyCount = Math.round(Math.min(128, Math.max(12, count)));
  return { keyCount, keyLow: Math.round(Math.min(128 - keyCount, Math.max(0, low))) };
}
