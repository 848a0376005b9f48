import { memo, useCallback } from "react";
import type { SampledZone, Zone } from "../../../core/instrument";
import { audition, useWave } from "../../state/audio-queries";
import { setView } from "../../state/view";
import { type Draw, Drawing } from "../../widgets/Drawing";
import { drawWave, fillGain } from "../../widgets/wave-draw";

/** The wave of a zone's sample; a press lets it be heard. */
export const ZoneWave = memo(function ZoneWave({ sample, start, end }: Pick<SampledZone, "sample" | "start" | "end">) {
  const wave = useWave(sample);
  const data = wave.data;
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      pen.fillStyle = colours.well;
      pen.fillRect(0, 0, width, height);
      if (data) drawWave(pen, width, height, { from: 0, to: data.peaks.frames }, data, colours, fillGain(data));
    },
    [data],
  );
  return (
    <button
      type="button"
      aria-label="Hear the sample"
      title="Hear the sample as it was recorded"
      onClick={() => void audition(sample, start, end)}
      className="mb-3 block w-full"
    >
      <Drawing draw={draw} label="Waveform of the sample" className="h-16 w-full" />
    </button>
  );
});

/** The selected zones, to pick one of. */
export const RepeatList = memo(
  function RepeatList({ zones, nameOf }: { zones: readonly Zone[]; nameOf: (zone: Zone) => string }) {
    return (
      <ul className="mb-3 max-h-28 overflow-y-auto" aria-label="Selected zones">
        {zones.slice(0, 60).map((zone) => (
          <li key={zone.id}>
            <button
              type="button"
              onClick={() => setView({ zoneIds: new Set([zone.id]) })}
              className="num flex w-full justify-between gap-2 rounded-[2px] px-1 text-left text-[12px] hover:bg-well"
            >
              <span className="truncate">{nameOf(zone)}</span>
              <span className="shrink-0 text-ink-soft">repeat {zone.repeat}</span>
            </button>
          </li>
        ))}
      </ul>
    );
  },
  // While they are dragged they are the same zones.
  (a, b) =>
    a.zones.length === b.zones.length &&
    a.zones.every(
      (z, i) => z.id === b.zones[i]?.id && z.repeat === b.zones[i].repeat && z.sample === b.zones[i].sample,
    ),
);
