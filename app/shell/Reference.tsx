import { useEffect, useMemo, useRef, useState } from "react";
import { foundBy } from "../../core/params";
import { type ReferenceLine, type ReferenceUnit, reference } from "../../core/units";
import { cx } from "../widgets/class-names";
import { SearchField } from "../widgets/SearchField";
import { useOverlays } from "./overlays";

/** Every unit and parameter: what it does, its range, where it may stand. Opens at the control that had the focus. */
export function Reference() {
  const at = useOverlays((o) => o.at);
  const [sought, setSought] = useState("");
  const units = useMemo(reference, []);
  const shown = useMemo(() => units.map((u) => found(u, sought)).filter((u) => u !== null), [units, sought]);
  const line = useRef<HTMLDivElement>(null);
  useEffect(() => {
    line.current?.scrollIntoView({ block: "center" });
  }, []);
  return (
    <div className="w-[min(860px,86vw)]">
      <SearchField
        label="Find a unit or a parameter"
        hint="name, or what it does"
        value={sought}
        onChange={setSought}
      />
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls can be scrolled by keys */}
      <div tabIndex={0} role="region" aria-label="Units and parameters" className="mt-3 h-[58vh] overflow-y-auto">
        {shown.length === 0 && <p className="text-ink-soft">Nothing has that in its name or does it.</p>}
        {shown.map((u) => (
          <section key={u.kind} className="mb-4">
            <h3 className="font-display font-semibold">{u.label}</h3>
            <p className="mb-1 text-ink-soft">
              {u.help} {u.where === "" ? "" : `Where: ${u.where}.`}
            </p>
            {u.lines.map((l) => (
              <div
                key={l.id}
                ref={l.id === at ? line : undefined}
                className={cx(
                  "grid grid-cols-[130px_minmax(0,1fr)_270px] gap-x-3 border-rule border-t py-1",
                  l.id === at && "bg-tint-cobalt",
                )}
              >
                <b className="font-semibold">{l.label}</b>
                <span>{l.help}</span>
                <span className="num text-ink-soft text-s">
                  {l.range} · initial {l.initial}
                </span>
              </div>
            ))}
          </section>
        ))}
      </div>
    </div>
  );
}

/** A unit with those of its lines that are sought, all where the unit itself is; null where nothing is. */
function found(unit: ReferenceUnit, sought: string): ReferenceUnit | null {
  if (foundBy(`${unit.label} ${unit.help}`, sought)) return unit;
  const lines = unit.lines.filter((l: ReferenceLine) => foundBy(`${unit.label} ${l.label} ${l.help}`, sought));
  return lines.length === 0 ? null : { ...unit, lines };
}
