import type { Zone } from "../../../core/instrument";

/** A combination that isn't heard as it was meant, and what would mend it. */
export interface UnheardPart {
  readonly id: string;
  readonly text: string;
  readonly repair: { readonly label: string; readonly change: (zone: Zone) => Zone };
}

/** What of a zone's loops is never heard, or not as it seems. */
export function unheardParts(zone: Zone): readonly UnheardPart[] {
  const { loop, releaseLoop, oneShot } = zone;
  const found: UnheardPart[] = [];
  const repair = (label: string, change: (zone: Zone) => Zone) => ({ label, change });
  if (loop && oneShot && loop.times === 0)
    found.push({
      id: "one-shot",
      text: "The zone plays to its end whatever the key does; a loop without end would never come there, so the note is released at once.",
      repair: repair("Let the key end it", (z) => ({ ...z, oneShot: false })),
    });
  if (loop?.times === 1)
    found.push({
      id: "once",
      text: "A loop that is played once is none: the sound just goes through it.",
      repair: repair("Play it without end", (z) => (z.loop ? { ...z, loop: { ...z.loop, times: 0 } } : z)),
    });
  if (releaseLoop?.times === 1)
    found.push({
      id: "release-once",
      text: "A release loop that is played once is none.",
      repair: repair("Play it twice", (z) =>
        z.releaseLoop ? { ...z, releaseLoop: { ...z.releaseLoop, times: 2 } } : z,
      ),
    });
  if (loop && releaseLoop && releaseLoop.end <= loop.end)
    found.push({
      id: "order",
      text: "The release loop ends before the sustain loop does: it is never reached in order.",
      repair: repair("Move it behind the sustain loop", (z) => {
        if (!z.loop || !z.releaseLoop) return z;
        const length = Math.min(z.releaseLoop.end - z.releaseLoop.start, Math.max(2, z.end - z.loop.end));
        const start = Math.min(z.loop.end, z.end - length);
        return { ...z, releaseLoop: { ...z.releaseLoop, start, end: start + length } };
      }),
    });
  return found;
}
