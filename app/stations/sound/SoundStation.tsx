import { scaleLinear, scaleLog } from "d3-scale";
import { useCallback, useState } from "react";
import { type FilterSettings, filterResponse } from "../../../core/dsp";
import type { Layer, Unit } from "../../../core/instrument";
import { plural } from "../../../core/params";
import { UNITS, unitSpec } from "../../../core/units";
import { Station } from "../../shell/Station";
import { useInstrument, useUnit } from "../../state/use-session";
import { Choice } from "../../widgets/Choice";
import { cx } from "../../widgets/class-names";
import { type Draw, Drawing } from "../../widgets/Drawing";
import { EnvelopePlot } from "../../widgets/EnvelopePlot";
import { ParamControl } from "../../widgets/ParamControl";
import { RoomChoice } from "./RoomChoice";
import { TuningPart } from "./TuningPart";

/** Sound: the chain that makes the tone, from the source to the room. */
export function SoundStation() {
  const layers = useInstrument((i) => i.layers);
  const effects = useInstrument((i) => i.effects);
  const [layerId, setLayerId] = useState(layers[0]?.id ?? "");
  const layer = layers.find((l) => l.id === layerId) ?? layers[0];
  if (!layer) return <Station title="Sound">{null}</Station>;
  const at = `layers/${layer.id}`;
  const zones = layer.groups.reduce((n, g) => n + g.zones.length, 0);
  return (
    <Station
      title="Sound"
      facts={`${layer.name} · ${plural(zones, "zone")} → ${layer.stages.map((s) => s.name.toLowerCase()).join(" → ")} → amp → ${effects.map((e) => e.name.toLowerCase()).join(" → ")}`}
      actions={
        layers.length > 1 && (
          <Choice
            label="Layer"
            value={layer.id}
            options={layers.map((l) => ({ id: l.id, label: l.name }))}
            onChange={setLayerId}
            className="w-32"
          />
        )
      }
      inspector={
        <>
          <h2 className="mb-2 font-display font-semibold text-l">Playing</h2>
          {UNITS.play.params.map((p) => (
            <ParamControl key={p.id} address={`play/${p.id}`} />
          ))}
          <TuningPart />
          <p className="mt-3 text-ink-soft text-s">
            Drag a scale or type into its field: <span className="num">440</span>, <span className="num">A4</span>,{" "}
            <span className="num">-6 dB</span>, <span className="num">30 ms</span>. A double click sets it back. A plum
            mark shows how far routes can move it.
          </p>
        </>
      }
    >
      <div className="grid min-h-0 flex-1 grid-cols-2 grid-rows-[auto_1fr] gap-px overflow-y-auto bg-rule">
        <Card number={1} unit={layer.source} address={`${at}/source`}>
          <p className="mt-1 text-ink-soft">
            {zones > 0
              ? `${plural(zones, "zone")} of ${plural(new Set(layer.groups.flatMap((g) => g.zones.map((z) => z.sample))).size, "sample")} answer the keys.`
              : "No zone is mapped yet: this layer is silent."}
          </p>
        </Card>
        {layer.stages.map((stage, i) => (
          <Card key={stage.id} number={i + 2} unit={stage} address={`${at}/stages/${stage.id}`}>
            {stage.kind === "filter" && <FilterPlot address={`${at}/stages/${stage.id}`} />}
          </Card>
        ))}
        <Card number={layer.stages.length + 2} unit={layer.amp} address={`${at}/amp`}>
          <EnvelopePlot address={`${at}/amp`} className="h-[110px]" />
        </Card>
        <div className="flex flex-col gap-px bg-rule">
          <Strip layer={layer} />
          {effects.map((effect, i) => (
            <Card
              key={effect.id}
              number={layer.stages.length + 4 + i}
              unit={effect}
              address={`effects/${effect.id}`}
              className="flex-1"
            >
              {effect.kind === "convolution" && <RoomChoice unit={effect} />}
            </Card>
          ))}
        </div>
      </div>
    </Station>
  );
}

const Strip = ({ layer }: { layer: Layer }) => (
  <Card number={layer.stages.length + 3} unit={layer.strip} address={`layers/${layer.id}/strip`} />
);

function Card({
  number,
  unit,
  address,
  children,
  className,
}: {
  number: number;
  unit: Unit;
  address: string;
  children?: React.ReactNode;
  className?: string;
}) {
  const spec = unitSpec(unit.kind);
  return (
    <section aria-label={unit.name} className={cx("bg-sheet px-4 py-3", className)}>
      <div className="mb-1.5 flex items-baseline gap-2">
        <span className="num text-ink-faint text-s">{number}</span>
        <h2 className="font-display font-semibold text-l">{unit.name}</h2>
        <span className="truncate text-ink-faint text-s">{spec.help}</span>
      </div>
      {spec.params.map((p) => (
        <ParamControl key={p.id} address={`${address}/${p.id}`} />
      ))}
      {children}
    </section>
  );
}

const LOWEST = 20;
const HIGHEST = 20000;
const RATE = 48000;

/** The filter's response in decibels over frequency. */
function FilterPlot({ address }: { address: string }) {
  const unit = useUnit(address);
  const read = (id: string) => unit?.params[id];
  const { mode, slope, character } = {
    mode: String(read("mode")) as FilterSettings["mode"],
    slope: String(read("slope")) as FilterSettings["slope"],
    character: String(read("character")) as FilterSettings["character"],
  };
  const cutoff = Number(read("cutoff"));
  const resonance = Number(read("resonance"));
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      pen.fillStyle = colours.well;
      pen.fillRect(0, 0, width, height);
      const x = scaleLog([LOWEST, HIGHEST], [0, width]);
      const y = scaleLinear([30, -48], [0, height]);
      pen.font = '10px "Spline Sans Mono Variable", monospace';
      pen.fillStyle = colours["ink-faint"];
      for (const f of [100, 1000, 10000]) {
        pen.fillStyle = colours.rule;
        pen.fillRect(Math.round(x(f)), 0, 1, height);
        pen.fillStyle = colours["ink-faint"];
        pen.fillText(f >= 1000 ? `${f / 1000} kHz` : `${f} Hz`, x(f) + 3, height - 4);
      }
      pen.fillStyle = colours.rule;
      for (const db of [0, -24]) {
        pen.fillRect(0, Math.round(y(db)), width, 1);
        pen.fillStyle = colours["ink-faint"];
        pen.fillText(`${db} dB`.replace("-", "−"), 3, y(db) - 3);
        pen.fillStyle = colours.rule;
      }
      pen.beginPath();
      for (let i = 0; i <= width; i++) {
        const f = LOWEST * (HIGHEST / LOWEST) ** (i / width);
        const db = Math.max(
          -60,
          20 * Math.log10(filterResponse({ mode, slope, character, cutoff, resonance }, RATE, f)),
        );
        pen.lineTo(i, y(db));
      }
      pen.strokeStyle = colours.ink;
      pen.lineWidth = 2;
      pen.stroke();
      if (mode === "off") return;
      pen.fillStyle = colours.cobalt;
      pen.fillRect(Math.round(x(cutoff)), 0, 1, height);
    },
    [mode, slope, character, cutoff, resonance],
  );
  return (
    <Drawing
      draw={draw}
      label={`Response of the filter: ${mode}, ${Math.round(cutoff)} Hz`}
      className="mt-2 h-[110px] w-full"
    />
  );
}
