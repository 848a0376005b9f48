import { Plus } from "lucide-react";
import type { UnitList } from "../../../core/instrument";
import { kindsAt, type Place } from "../../../core/units";
import { addKind, addLayerOf } from "../../units/unit-commands";
import { KindMenu } from "./KindMenu";

/** Adds a unit to a list. */
export const AddUnit = ({ list, place, where }: { list: UnitList; place: Place; where: string }) => (
  <KindMenu
    label={`Add to ${where}`}
    kinds={kindsAt(place)}
    onPick={(kind) => addKind(list, kind)}
    className="grid size-6 shrink-0 place-items-center rounded-m border border-rule-strong border-dashed text-ink-soft hover:bg-well hover:text-ink"
  >
    <Plus size={13} aria-hidden />
  </KindMenu>
);

/** Adds a layer, by what its sound comes from. */
export const AddLayer = () => (
  <KindMenu
    label="Add a layer"
    kinds={kindsAt("source")}
    onPick={addLayerOf}
    className="flex h-6 items-center gap-1 rounded-m border border-rule-strong border-dashed px-1.5 text-ink-soft text-s hover:bg-well hover:text-ink"
  >
    <Plus size={13} aria-hidden /> layer
  </KindMenu>
);
