import type { SampledZone } from "../../../core/instrument";
import { moveStart, startAddress, startRoute } from "../../state/softer-start";
import { useInstrument } from "../../state/use-session";
import { Button } from "../../widgets/Button";
import { ParamControl, Row, Section } from "../../widgets/ParamControl";

const MOVERS = [
  { id: "velocity", label: "velocity", hint: "Soft notes begin later, without their pluck; the hardest at the start" },
  { id: "random", label: "chance", hint: "Each note begins a little elsewhere, up to 60 ms later" },
  { id: "macro", label: "a dial", hint: "Makes a macro that leaves up to 60 ms of the beginning out" },
] as const;

/** Where notes begin in the sample, for all zones of the layer: later is softer; and what moves that. */
export function StartSection({ zone }: { zone: SampledZone }) {
  const layer = useInstrument((i) => i.layers.find((l) => l.groups.some((g) => g.zones.some((z) => z.id === zone.id))));
  const routes = useInstrument((i) => i.routes);
  if (!layer) return null;
  return (
    <Section title="Sample start">
      <ParamControl address={startAddress(layer.id)} />
      <Row label="Modulated by" help="For all zones of the layer; a second press takes it away">
        <span className="flex flex-wrap gap-0.5">
          {MOVERS.map(({ id, label, hint }) => (
            <Button
              key={id}
              className="!h-[22px] !px-1 text-s"
              hint={hint}
              pressed={startRoute({ routes }, layer.id, id) !== undefined}
              onClick={() => moveStart(layer.id, id)}
            >
              {label}
            </Button>
          ))}
        </span>
      </Row>
    </Section>
  );
}
