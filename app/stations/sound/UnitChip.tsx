import { memo, useEffect, useMemo, useRef } from "react";
import type { Unit } from "../../../core/instrument";
import { unitSpec } from "../../../core/units";
import { useView } from "../../state/view";
import { chainCommands, chooseUnit, openUnit } from "../../units/unit-commands";
import { pictureOf } from "../../units/unit-picture";
import { WithMenu } from "../../widgets/CommandMenu";
import { cx } from "../../widgets/class-names";

const WIDTH = 26;
const HEIGHT = 18;

/** What a unit does, small. */
export function Picture({ unit }: { unit: Unit }) {
  const points = useMemo(() => pictureOf(unit, WIDTH), [unit]);
  if (!points) return null;
  const line = points.map((y, x) => `${x},${(HEIGHT - 1 - y * (HEIGHT - 2)).toFixed(1)}`).join(" ");
  return (
    <svg width={WIDTH} height={HEIGHT} aria-hidden className="shrink-0">
      <polyline points={line} fill="none" stroke="currentColor" strokeWidth="1.3" />
    </svg>
  );
}

/** A unit on the way of the sound: pressed, it opens. */
export const UnitChip = memo(function UnitChip({
  address,
  unit,
  open,
  small = false,
}: {
  address: string;
  unit: Unit;
  open: boolean;
  /** Its picture alone, where there are many: the name is told when it is pointed at. */
  small?: boolean;
}) {
  // A layer's strip bears the layer's name in lists; here it stands in its row.
  const name = unit.kind === "strip" ? "Level" : unit.name;
  const off = Number(unit.params.on ?? 1) < 0.5;
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (open) button.current?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [open]);
  const chosen = useView((v) => v.moreUnits.has(address));
  const commands = useMemo(() => chainCommands(address), [address]);
  return (
    <WithMenu commands={commands}>
      <button
        ref={button}
        type="button"
        aria-label={`${name}${off ? ", switched off" : ""}`}
        aria-pressed={open || chosen}
        title={`${name}: ${unitSpec(unit.kind).help}`}
        data-unit={address}
        onClick={(event) =>
          event.shiftKey || event.ctrlKey || event.metaKey ? chooseUnit(address) : openUnit(address)
        }
        className={cx(
          "flex h-[30px] max-w-[168px] shrink-0 items-center gap-1.5 rounded-m border bg-sheet px-2",
          open ? "border-cobalt bg-tint-cobalt" : chosen ? "border-cobalt" : "border-ink hover:bg-well",
          off && "border-dashed text-ink-soft",
        )}
      >
        <Picture unit={unit} />
        {(!small || open) && <span className="truncate">{name}</span>}
      </button>
    </WithMenu>
  );
});
