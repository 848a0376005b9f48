import { hertzOf, type Note } from "../audio";
import type { Loop, Zone } from "../instrument";

/** How a loop is carried over to another sound: at the same times, for as many periods, or at the same places of the whole. */
export type LoopCopyBy = "time" | "periods" | "share";

/** A zone with what its sample says. */
export interface LoopPlace {
  readonly zone: Pick<Zone, "start" | "end">;
  readonly rate: number;
  /** The pitch of the sample as a note with fraction; null where none is known. */
  readonly note: Note | null;
}

/**
 * A zone's loop as another zone's: by time it begins and ends as many seconds after the start; by periods it begins then and has as many periods of the other's
 * pitch (as many seconds where a pitch isn't known); by share it lies at the same place of the whole. It may lie beyond the other's end: whoever takes it
 * settles it.
 */
export function copiedLoop(loop: Loop, from: LoopPlace, to: LoopPlace, by: LoopCopyBy): Loop {
  const start = loop.start - from.zone.start;
  const length = loop.end - loop.start;
  const place = (begin: number, long: number): Loop => {
    const at = to.zone.start + Math.round(begin);
    return {
      ...loop,
      // How loud another sound is from place to place is another matter.
      flat: to === from ? loop.flat : null,
      start: at,
      end: at + Math.max(2, Math.round(long)),
      fade: Math.round((loop.fade / length) * long),
    };
  };
  if (by === "share") {
    const share = (to.zone.end - to.zone.start) / (from.zone.end - from.zone.start);
    return place(start * share, length * share);
  }
  const times = to.rate / from.rate;
  if (by === "time" || from.note === null || to.note === null) return place(start * times, length * times);
  const periods = (length / from.rate) * hertzOf(from.note);
  // As many whole periods as there were, where they were whole.
  const whole = Math.abs(periods - Math.round(periods)) < 0.05 ? Math.round(periods) : periods;
  return place(start * times, (whole * to.rate) / hertzOf(to.note));
}
