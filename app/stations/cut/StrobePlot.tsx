import { useQuery } from "@tanstack/react-query";
import { useCallback } from "react";
import { strobe } from "../../../core/analysis";
import { type Audio, hertzOf, nameOfNote } from "../../../core/audio";
import { noteOfSlice } from "../../../core/formats";
import type { Slice, Take } from "../../../core/instrument";
import { hear } from "../../state/audio-queries";
import { Button } from "../../widgets/Button";
import { type Draw, Drawing } from "../../widgets/Drawing";
import { audioWorker } from "../../workers/audio-worker";

const COLUMNS = 118;
const ROWS = 24;
const SECONDS = 1.5;

/** A slice against the tone of its note: drawn as a strobe would show it, and heard together with it. */
export function StrobePlot({ take, slice }: { take: Take; slice: Slice }) {
  const note = noteOfSlice(slice) ?? 69;
  const from = Math.min(slice.end - 1, slice.onset + Math.round(take.rate * 0.03));
  const to = Math.min(slice.end, from + Math.round(take.rate * SECONDS));
  const { data } = useQuery({
    queryKey: ["strobe", take.sha, from, to],
    queryFn: () => audioWorker().window(take.sha, from, to),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30000,
  });
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      pen.fillStyle = colours.well;
      pen.fillRect(0, 0, width, height);
      if (!data) return;
      const image = strobe(data, take.rate, hertzOf(note), COLUMNS, ROWS);
      pen.fillStyle = colours.ink;
      for (let c = 0; c < COLUMNS; c++) {
        for (let r = 0; r < ROWS; r++) {
          const x = image[c * ROWS + r] as number;
          if (x <= 0) continue;
          pen.globalAlpha = x;
          pen.fillRect((c * width) / COLUMNS, (r * height) / ROWS, width / COLUMNS + 0.5, height / ROWS + 0.5);
        }
      }
      pen.globalAlpha = 1;
    },
    [data, take.rate, note],
  );
  const against = async () => {
    const audio = await audioWorker().stretch(take.sha, slice.start, slice.end);
    await hear(withTone(audio, hertzOf(note)));
  };
  const toneAlone = () =>
    hear(withTone({ rate: take.rate, channels: [new Float32Array(take.rate * 2)] }, hertzOf(note), 0.15));
  return (
    <div className="mt-1">
      <Drawing
        draw={draw}
        className="h-[54px] w-full border border-rule"
        label={`The sound against a tone of ${nameOfNote(note)}: level stripes are in tune, rising ones sharp, falling ones flat`}
      />
      <div className="mt-1 flex gap-1.5">
        <Button
          className="!h-6 px-2"
          hint="The sound and the tone together: what beats is off"
          onClick={() => void against()}
        >
          With a tone
        </Button>
        <Button className="!h-6 px-2" hint="The tone of the note alone" onClick={() => void toneAlone()}>
          Tone alone
        </Button>
      </div>
    </div>
  );
}

/** A sound with a sine at a frequency added, about as loud as the sound. */
function withTone(audio: Audio, hertz: number, level?: number): Audio {
  const [first = new Float32Array(0)] = audio.channels;
  let power = 0;
  for (const x of first) power += x * x;
  const gain = level ?? Math.min(0.3, Math.max(0.03, 1.4 * Math.sqrt(power / Math.max(1, first.length))));
  const step = (2 * Math.PI * hertz) / audio.rate;
  const ramp = audio.rate * 0.01;
  return {
    rate: audio.rate,
    channels: audio.channels.map((channel) =>
      channel.map((x, i) => x + gain * Math.min(1, i / ramp, (channel.length - i) / ramp) * Math.sin(i * step)),
    ),
  };
}
