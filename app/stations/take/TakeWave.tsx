import { useCallback, useState } from "react";
import type { Take } from "../../../core/instrument";
import { reasonOf } from "../../basis/reason-of";
import { audition, useWave } from "../../state/audio-queries";
import type { Colours } from "../../widgets/Drawing";
import { WaveView } from "../../widgets/WaveView";
import { paintFlaws } from "../../widgets/wave-flaws";
import type { WaveScale } from "../../widgets/wave-scale";
import type { Span } from "../../widgets/wave-span";

/** A take's waveform, with the places where it clipped and its markers; a click plays on from there. */
export function TakeWave({ take }: { take: Take }) {
  const wave = useWave(take.sha);
  const [span, setSpan] = useState<Span>({ from: 0, to: take.frames });
  const over = useCallback(
    (pen: CanvasRenderingContext2D, scale: WaveScale, colours: Colours) => paintMarks(pen, scale, colours, take),
    [take],
  );
  if (wave.error)
    return (
      <p className="m-6 text-vermilion">
        The sound of {take.name} can't be shown: {reasonOf(wave.error)}.
      </p>
    );
  if (!wave.data) return <p className="m-6 text-ink-soft">Reading {take.name} …</p>;
  return (
    <WaveView
      sha={take.sha}
      wave={wave.data}
      rate={take.rate}
      span={span}
      onSpan={setSpan}
      label={`Waveform of ${take.name}`}
      over={over}
      onPick={(frame) => void audition(take.sha, frame, frame + take.rate * 3)}
    />
  );
}

/** What is wrong with the recording, and the markers of the file. */
function paintMarks(pen: CanvasRenderingContext2D, scale: WaveScale, colours: Colours, take: Take): void {
  paintFlaws(pen, scale, colours, take);
  pen.fillStyle = colours.plum;
  pen.font = '10.5px "Spline Sans Mono Variable", monospace';
  for (const marker of take.markers) {
    const x = scale.x(marker.at);
    if (x < 0 || x > scale.width) continue;
    pen.fillRect(x, 0, 1, scale.height);
    pen.fillText(marker.name, x + 3, scale.height - 4);
  }
}
