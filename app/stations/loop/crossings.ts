import type { Loop } from "../../../core/instrument";

/** A stretch over which two sounds cross, in frames: it rises from `from` to `to` (either way), as what lies `beyond` the loop does. */
interface Crossing {
  readonly from: number;
  readonly to: number;
  readonly beyond: { readonly from: number; readonly to: number };
}

/**
 * Where a loop's crossfade lies, as docs/format.md says: forward it is before the end, with what lies before the start; backward before the start,
 * on the way down, with what lies behind the end; there and back it follows each turn, with what lies beyond it.
 */
export function crossings({ start, end, fade, mode }: Loop): readonly Crossing[] {
  if (fade <= 0) return [];
  const atEnd = { from: end - fade, to: end };
  const atStart = { from: start + fade, to: start };
  const before = { from: start - fade, to: start };
  const behind = { from: end + fade, to: end };
  switch (mode) {
    case "forward":
      return [{ ...atEnd, beyond: before }];
    case "backward":
      return [{ ...atStart, beyond: behind }];
    case "alternating":
      return [
        { ...atEnd, beyond: behind },
        { ...atStart, beyond: before },
      ];
  }
}
