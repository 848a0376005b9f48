import { useState } from "react";
import type { Group, Layer } from "../../../core/instrument";
import { UNITS } from "../../../core/units";
import { Fold, ParamControl } from "../../widgets/ParamControl";

/** The settings that the zones of a group share. */
export const GroupSettings = (given: { layer: Layer; group: Group }) => (
  <SettingsOfGroup key={`${given.layer.id}/${given.group.id}`} {...given} />
);

function SettingsOfGroup({ layer, group }: { layer: Layer; group: Group }) {
  const control = ({ id }: { id: string }) => (
    <ParamControl key={id} address={`layers/${layer.id}/groups/${group.id}/${id}`} />
  );
  const { params } = UNITS.group;
  const isSet = ({ id, default: usual }: (typeof params)[number]) => group.settings.params[id] !== usual;
  // What is seldom used is folded away, unless it is used; what is turned meanwhile stays where it is.
  const [shown] = useState(() => params.filter((p) => USUAL.has(p.id) || isSet(p)));
  const seldom = params.filter((p) => !shown.includes(p));
  return (
    <>
      {shown.map(control)}
      {seldom.length > 0 && (
        <Fold title={<span className="text-ink-soft">Keyswitch, chance, sends …</span>}>{seldom.map(control)}</Fold>
      )}
    </>
  );
}

/** Settings of a group that are always in sight. */
const USUAL: ReadonlySet<string> = new Set(["level", "pan", "tuning", "roundRobin", "trigger", "chokeGroup"]);
