import { Pin } from "lucide-react";
import { useMemo, useState } from "react";
import { renameUnit, settingOf, type Unit } from "../../core/instrument";
import { presetsOf, unitSpec } from "../../core/units";
import { session } from "../state/session";
import { useUnit } from "../state/use-session";
import { setView, useView } from "../state/view";
import { Button } from "../widgets/Button";
import { MenuButton } from "../widgets/CommandMenu";
import { cx } from "../widgets/class-names";
import { ParamControl } from "../widgets/ParamControl";
import { Toggle } from "../widgets/Toggle";
import { Well } from "../widgets/Well";
import { BandTable } from "./BandTable";
import { CompareButton } from "./CompareButton";
import { FromLayer } from "./FromLayer";
import { PresetMenu } from "./PresetMenu";
import { RoomChoice } from "./RoomChoice";
import { RowTable } from "./RowTable";
import { SampleChoice } from "./SampleChoice";
import { SourceChoice } from "./SourceChoice";
import { isDrawn, UnitPlot } from "./UnitPlot";
import { chainCommands, switchUnit } from "./unit-commands";

/** A unit's parameters: those that matter most first, the others where they are asked for. */
function Params({ address, unit }: { address: string; unit: Unit }) {
  const [all, setAll] = useState(false);
  const spec = unitSpec(unit.kind);
  const params = spec.params.filter((p) => p.id !== "on");
  const first = spec.first ? params.filter((p) => spec.first?.includes(p.id)) : params;
  const rest = params.filter((p) => !first.includes(p));
  const set = rest.filter((p) => (settingOf(unit, p.id) ?? p.default) !== p.default).length;
  return (
    <>
      {first.map((p) => (
        <ParamControl key={p.id} address={`${address}/${p.id}`} />
      ))}
      {rest.length > 0 && (
        <Button
          pressed={all}
          onClick={() => setAll(!all)}
          hint={all ? "Only what matters most" : "All that can be set"}
        >
          {all ? "Fewer" : `${rest.length} more${set > 0 ? ` · ${set} of them set` : ""}`}
        </Button>
      )}
      {all && rest.map((p) => <ParamControl key={p.id} address={`${address}/${p.id}`} />)}
    </>
  );
}

/** The unit that is open: its drawing, and its controls beside it. */
export function UnitPanel({ address, narrow = false }: { address: string; narrow?: boolean }) {
  const pinned = useView((v) => v.pinnedUnit === address);
  const unit = useUnit(address);
  const commands = useMemo(() => chainCommands(address), [address]);
  if (!unit) return null;
  const spec = unitSpec(unit.kind);
  const equaliser = unit.kind === "equaliser";
  return (
    <section aria-label={unit.name} className="flex min-h-0 min-w-0 flex-1 flex-col">
      <div className="flex shrink-0 items-center gap-2 px-3.5 pt-2 pb-1">
        <Well
          label="Name of the unit"
          text={unit.name}
          width={narrow ? 96 : 140}
          onType={(name) => {
            session.commit(renameUnit(address, name.trim() || spec.label));
            return true;
          }}
        />
        <span className={cx("min-w-0 truncate text-ink-soft text-s", narrow && "hidden")}>
          {spec.label === unit.name ? spec.help : `${spec.label}: ${spec.help}`}
        </span>
        <span className="flex-1" />
        {presetsOf(unit.kind).length > 0 && <PresetMenu address={address} unit={unit} />}
        {spec.role === "source" && <SourceChoice layer={address.split("/")[1] ?? ""} unit={unit} />}
        {unit.params.on !== undefined && <CompareButton key={address} address={address} />}
        {unit.params.on !== undefined && (
          <Toggle label="On" on={Number(unit.params.on) >= 0.5} onChange={() => switchUnit(address)} />
        )}
        <Button
          aria-label={pinned ? "Unpin the unit" : "Pin the unit"}
          hint={pinned ? "It no longer stays beside another" : "It stays open beside the next one"}
          pressed={pinned}
          onClick={() => setView({ pinnedUnit: pinned ? null : address })}
        >
          <Pin size={13} aria-hidden />
        </Button>
        <MenuButton label="What can be done with the unit" commands={commands} />
      </div>
      <div
        className={cx(
          "grid min-h-0 flex-1 gap-x-4 gap-y-2 px-3.5 pb-3",
          narrow ? "grid-rows-[minmax(112px,0.7fr)_minmax(0,1fr)]" : "grid-cols-[minmax(0,1.15fr)_minmax(300px,1fr)]",
        )}
      >
        <div className="flex min-h-0 flex-col">
          {isDrawn(unit) ? <UnitPlot address={address} unit={unit} /> : <p className="text-ink-soft">{spec.help}</p>}
        </div>
        <div className="min-h-0 overflow-y-auto pr-1">
          {spec.sample && <SampleChoice address={address} unit={unit} />}
          {equaliser ? <BandTable address={address} unit={unit} /> : <Params address={address} unit={unit} />}
          {spec.links && <FromLayer address={address} unit={unit} />}
          {spec.table && <RowTable address={address} unit={unit} />}
          {unit.kind === "convolution" && <RoomChoice address={address} unit={unit} />}
        </div>
      </div>
    </section>
  );
}
