import { Plus } from "lucide-react";
import { useState } from "react";
import { addUnit, curveOf, type Layer, newUnit, setCurve, type Unit, usualCurve } from "../../../core/instrument";
import { unitSpec } from "../../../core/units";
import type { Command } from "../../state/commands";
import { freshId } from "../../state/ids";
import { session } from "../../state/session";
import { unitCommands } from "../../state/unit-commands";
import { useInstrument } from "../../state/use-session";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { MenuButton } from "../../widgets/CommandMenu";
import { EnvelopePlot } from "../../widgets/EnvelopePlot";
import { ParamControl } from "../../widgets/ParamControl";
import { CurveTable } from "./CurveTable";
import { LfoPlot } from "./LfoPlot";

function Mover({
  label,
  options,
  chosen,
  onChoose,
  picture,
  children,
  onAdd,
  adds,
  commands,
}: {
  label: string;
  options: readonly { id: string; label: string }[];
  chosen: string;
  onChoose: (id: string) => void;
  /** What stays in sight while the rest is scrolled. */
  picture: React.ReactNode;
  children: React.ReactNode;
  adds: readonly { id: string; label: string }[];
  onAdd: (kind: string) => void;
  /** What can be done with the chosen one. */
  commands: readonly Command[];
}) {
  return (
    <section aria-label={label} className="flex min-h-0 flex-col bg-sheet px-4 py-2">
      <div className="mb-1 flex shrink-0 items-center gap-2">
        <Choice label={label} value={chosen} options={options} onChange={onChoose} className="w-44" />
        {adds.map((kind) => (
          <Button key={kind.id} onClick={() => onAdd(kind.id)}>
            <Plus size={13} aria-hidden /> {kind.label}
          </Button>
        ))}
        <span className="flex-1" />
        <MenuButton label={`What can be done with the ${label}`} commands={commands} />
      </div>
      {picture}
      <div className="min-h-0 flex-1 overflow-y-auto">{children}</div>
    </section>
  );
}

/** The layer's amp envelope and the envelopes for routes, one at a time. */
export function Envelopes({ layer }: { layer: Layer }) {
  const envelopes = useInstrument((i) => i.envelopes);
  const layers = useInstrument((i) => i.layers);
  const [chosen, choose] = useState("");
  const unit = envelopes.find((u) => u.id === chosen);
  const amps = layers.map((l) => ({ id: `amp:${l.id}`, label: layers.length > 1 ? `${l.name}: amp` : "Amp envelope" }));
  const ampOf = layers.find((l) => `amp:${l.id}` === chosen) ?? layer;
  const at = unit ? `envelopes/${unit.id}` : `layers/${ampOf.id}/amp`;
  const kind = unit?.kind ?? "amp";
  const add = (wanted: string) => {
    const id = freshId(new Set(envelopes.map((u) => u.id)));
    const made = newUnit(wanted === "path" ? "path" : "envelope", id, `Envelope ${envelopes.length + 1}`);
    session.commit(addUnit("envelopes", wanted === "path" ? { ...made, curve: usualCurve("path") } : made));
    choose(id);
  };
  return (
    <Mover
      label="Envelope"
      options={[...amps, ...envelopes.map((u) => ({ id: u.id, label: u.name }))]}
      chosen={unit ? unit.id : `amp:${ampOf.id}`}
      onChoose={choose}
      adds={[
        { id: "envelope", label: "Envelope" },
        { id: "path", label: "Points" },
      ]}
      onAdd={add}
      commands={unitCommands("envelopes", unit?.id ?? null, (id) => choose(id ?? ""))}
      picture={kind !== "path" && <EnvelopePlot address={at} className="mb-1 h-[92px] shrink-0" />}
    >
      {unitSpec(kind).params.map((p) => (
        <ParamControl key={p.id} address={`${at}/${p.id}`} />
      ))}
      {unit?.kind === "path" && <Points unit={unit} address={at} xLabel="Seconds" />}
    </Mover>
  );
}

/** The LFOs, one at a time. */
export function Lfos() {
  const lfos = useInstrument((i) => i.lfos);
  const [chosen, choose] = useState("");
  const unit = lfos.find((u) => u.id === chosen) ?? lfos[0];
  const add = () => {
    const id = freshId(new Set(lfos.map((u) => u.id)));
    session.commit(addUnit("lfos", newUnit("lfo", id, `LFO ${lfos.length + 1}`)));
    choose(id);
  };
  return (
    <Mover
      label="LFO"
      options={lfos.map((u) => ({ id: u.id, label: u.name }))}
      chosen={unit?.id ?? ""}
      onChoose={choose}
      adds={[{ id: "lfo", label: "LFO" }]}
      onAdd={add}
      commands={unitCommands("lfos", unit?.id ?? null, (id) => choose(id ?? ""))}
      picture={unit && <LfoPlot unit={unit} />}
    >
      {unit ? (
        <>
          {unitSpec("lfo").params.map((p) => (
            <ParamControl key={p.id} address={`lfos/${unit.id}/${p.id}`} />
          ))}
          {unit.params.shape === "drawn" && <Points unit={unit} address={`lfos/${unit.id}`} xLabel="Cycle" />}
        </>
      ) : (
        <p className="text-ink-soft">There is no LFO. Add one to let something move by itself.</p>
      )}
    </Mover>
  );
}

const Points = ({ unit, address, xLabel }: { unit: Unit; address: string; xLabel: string }) => (
  <CurveTable
    curve={curveOf(unit)}
    xLabel={xLabel}
    most={unit.kind === "lfo" ? 1 : 600}
    low={unit.kind === "lfo" ? -1 : 0}
    onChange={(curve, gesture) => session.commit(setCurve(address, curve), gesture)}
  />
);
