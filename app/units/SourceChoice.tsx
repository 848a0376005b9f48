import { setSource, type Unit } from "../../core/instrument";
import { isUnitKind, kindsAt, unitSpec } from "../../core/units";
import { session } from "../state/session";
import { Choice } from "../widgets/Choice";

/** What a layer's sound comes from. */
export function SourceChoice({ layer, unit }: { layer: string; unit: Unit }) {
  return (
    <Choice
      label="Source"
      value={unit.kind}
      className="w-[112px] shrink-0"
      options={kindsAt("source").map((kind) => ({ id: kind, label: unitSpec(kind).label }))}
      onChange={(kind) => isUnitKind(kind) && session.commit(setSource(layer, kind))}
    />
  );
}
