import { useMemo } from "react";
import { renameUnit } from "../../../core/instrument";
import { unitSpec } from "../../../core/units";
import { session } from "../../state/session";
import { useUnit } from "../../state/use-session";
import { MenuButton } from "../../widgets/CommandMenu";
import { ParamControl } from "../../widgets/ParamControl";
import { Toggle } from "../../widgets/Toggle";
import { Well } from "../../widgets/Well";
import { BandTable } from "./BandTable";
import { RoomChoice } from "./RoomChoice";
import { chainCommands, switchUnit } from "./sound-commands";
import { isDrawn, UnitPlot } from "./UnitPlot";

/** The unit that is open: its drawing, and its controls beside it. */
export function UnitPanel({ address }: { address: string }) {
  const unit = useUnit(address);
  const commands = useMemo(() => chainCommands(address), [address]);
  if (!unit) return null;
  const spec = unitSpec(unit.kind);
  const equaliser = unit.kind === "equaliser";
  const params = spec.params.filter((p) => p.id !== "on");
  return (
    <section aria-label={unit.name} className="flex min-h-0 flex-1 flex-col">
      <div className="flex shrink-0 items-center gap-2 px-3.5 pt-2 pb-1">
        <Well
          label="Name of the unit"
          text={unit.name}
          width={140}
          onType={(name) => {
            session.commit(renameUnit(address, name.trim() || spec.label));
            return true;
          }}
        />
        <span className="min-w-0 truncate text-ink-soft text-s">
          {spec.label === unit.name ? spec.help : `${spec.label}: ${spec.help}`}
        </span>
        <span className="flex-1" />
        {unit.params.on !== undefined && (
          <Toggle label="On" on={Number(unit.params.on) >= 0.5} onChange={() => switchUnit(address)} />
        )}
        <MenuButton label="What can be done with the unit" commands={commands} />
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1.15fr)_minmax(300px,1fr)] gap-4 px-3.5 pb-3">
        <div className="flex min-h-0 flex-col">
          {isDrawn(unit) ? <UnitPlot address={address} unit={unit} /> : <p className="text-ink-soft">{spec.help}</p>}
        </div>
        <div className="min-h-0 overflow-y-auto pr-1">
          {equaliser ? (
            <BandTable address={address} unit={unit} />
          ) : (
            params.map((p) => <ParamControl key={p.id} address={`${address}/${p.id}`} />)
          )}
          {unit.kind === "convolution" && <RoomChoice address={address} unit={unit} />}
        </div>
      </div>
    </section>
  );
}
