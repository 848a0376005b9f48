import { X } from "lucide-react";
import { useState } from "react";
import { useStore } from "zustand";
import { hertzOf, nameOfNote } from "../../core/audio";
import { formatNumber } from "../../core/params";
import { engine } from "../state/engine";
import { type Look, measuring, useMeasures } from "../state/measuring";
import { showMeasures, useView } from "../state/view";
import { Button } from "../widgets/Button";
import { type Draw, Drawing } from "../widgets/Drawing";
import { drawResponse, drawScope, drawSpectrum } from "./measure-draw";
import { TestSound } from "./TestSound";

/** Spectrum, wave, pitch, loudness and likeness of what is heard, above the keys at every station. */
export function Measures() {
  const shown = useView((v) => v.measures);
  return shown ? <Panel /> : null;
}

function Panel() {
  const [look, setLook] = useState<Look | null>(null);
  useMeasures(setLook);
  const response = useStore(engine.store, (s) => s.response);
  const spectrum: Draw = (pen, width, height, colours) => {
    drawSpectrum(pen, width, height, colours, look?.measured ?? null);
    if (response) drawResponse(pen, width, height, colours, response);
  };
  const scope: Draw = (pen, width, height, colours) =>
    drawScope(pen, width, height, colours, look && { left: look.left, rate: look.rate, pitch: look.measured.pitch });
  const { pitch = null, loudness = -120, peak = -120, likeness = 0 } = look?.measured ?? {};
  const cents = pitch === null ? 0 : (pitch - Math.round(pitch)) * 100;
  return (
    <section aria-label="Measures" className="flex h-[clamp(124px,20vh,172px)] shrink-0 border-rule border-t bg-sheet">
      <Drawing
        draw={spectrum}
        label={
          response
            ? "Spectrum of what is heard, with the highest of late, and what a sweep has met"
            : "Spectrum of what is heard, with the highest of late"
        }
        className="min-w-0 flex-[2]"
      />
      <Drawing
        draw={scope}
        label="Wave of what is heard, two cycles of its pitch"
        className="min-w-0 flex-1 border-rule border-l"
      />
      <TestSound />
      <dl className="grid w-[264px] shrink-0 grid-cols-[74px_1fr] content-start gap-y-0.5 border-rule border-l px-3 py-2">
        <dt className="text-ink-soft">Pitch</dt>
        <dd className="num">
          {pitch === null
            ? "–"
            : `${nameOfNote(Math.round(pitch))} ${cents < 0 ? "−" : "+"}${Math.abs(cents).toFixed(0)} ct · ${formatNumber("hertz", hertzOf(pitch))}`}
        </dd>
        <dt className="text-ink-soft">Loudness</dt>
        <dd className="num">{loudness <= -100 ? "−∞" : `${loudness.toFixed(1).replace("-", "−")} LUFS`}</dd>
        <dt className="text-ink-soft">Peak</dt>
        <dd className="num">{formatNumber("decibels", peak <= -100 ? Number.NEGATIVE_INFINITY : peak)}</dd>
        <dt className="text-ink-soft">Left ~ right</dt>
        <dd>
          <Likeness value={likeness} />
        </dd>
        <dd className="col-span-2 mt-1 flex gap-2">
          <Button
            onClick={() => {
              measuring.forget();
              engine.store.setState({ response: null });
            }}
          >
            Forget peaks
          </Button>
          <Button
            aria-label="Close the measures"
            hint="Close the measures"
            keys="Alt+M"
            onClick={() => showMeasures(false)}
          >
            <X size={13} aria-hidden />
          </Button>
        </dd>
      </dl>
    </section>
  );
}

/** How alike both sides are: in the middle unrelated, to the right the same, to the left upside down. */
function Likeness({ value }: { value: number }) {
  return (
    <span className="flex items-center gap-2">
      <span className="relative h-2 w-[84px] border border-rule-strong bg-well" aria-hidden>
        <span className="absolute top-[-3px] h-3 w-[3px] bg-ink" style={{ left: `${((value + 1) / 2) * 96}%` }} />
        <span className="absolute top-0 left-1/2 h-full w-px bg-rule-strong" />
      </span>
      <span className={`num ${value < -0.1 ? "text-vermilion" : ""}`}>{value.toFixed(2).replace("-", "−")}</span>
    </span>
  );
}
